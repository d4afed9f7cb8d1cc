CREATE VIRTUAL TABLE noted_fts USING fts5(job_id UNINDEXED, words, tokenize = 'unicode61 remove_diacritics 2');--> statement-breakpoint
INSERT INTO noted_fts (job_id, words) SELECT DISTINCT job_id, note || ' ' || instrument || ' ' || `by` FROM readings;--> statement-breakpoint
INSERT INTO noted_fts (job_id, words) SELECT DISTINCT job_id, value FROM readings WHERE value IS NOT NULL;--> statement-breakpoint
INSERT INTO noted_fts (job_id, words) SELECT DISTINCT job_id, words FROM photographs;--> statement-breakpoint
CREATE TRIGGER reading_noted AFTER INSERT ON readings
WHEN NOT EXISTS (SELECT 1 FROM readings r WHERE r.job_id = new.job_id AND r.seq < new.seq AND r.note = new.note AND r.instrument = new.instrument AND r.`by` = new.`by`)
BEGIN
	INSERT INTO noted_fts (job_id, words) VALUES (new.job_id, new.note || ' ' || new.instrument || ' ' || new.`by`);
END;--> statement-breakpoint
CREATE TRIGGER value_noted AFTER INSERT ON readings WHEN new.value IS NOT NULL
BEGIN
	INSERT INTO noted_fts (job_id, words) VALUES (new.job_id, new.value);
END;--> statement-breakpoint
CREATE TRIGGER photograph_noted AFTER INSERT ON photographs
BEGIN
	INSERT INTO noted_fts (job_id, words) VALUES (new.job_id, new.words);
END;
