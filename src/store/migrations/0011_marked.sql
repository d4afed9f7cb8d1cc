ALTER TABLE `photographs` ADD `moment` text;--> statement-breakpoint
ALTER TABLE `photographs` ADD `mark` text;--> statement-breakpoint
ALTER TABLE `photographs` ADD `unmarked` text;--> statement-breakpoint
CREATE TRIGGER mark_noted AFTER INSERT ON photographs WHEN new.mark IS NOT NULL
BEGIN
	INSERT INTO noted_fts (job_id, words) VALUES (new.job_id, json_extract(new.mark, '$.words'));
END;
