CREATE VIRTUAL TABLE jobs_fts USING fts5(job_id UNINDEXED, title, place, words, tokenize = 'unicode61 remove_diacritics 2');
