ALTER TABLE `jobs` ADD `snapshot` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `jobs` ADD `search_row` integer;--> statement-breakpoint
UPDATE `jobs` SET `snapshot` = `revision`;--> statement-breakpoint
CREATE TABLE `search_rows` AS SELECT `job_id`, max(rowid) AS `row` FROM `jobs_fts` GROUP BY `job_id`;--> statement-breakpoint
CREATE INDEX `search_rows_by_job` ON `search_rows` (`job_id`);--> statement-breakpoint
UPDATE `jobs` SET `search_row` = (SELECT `row` FROM `search_rows` WHERE `job_id` = `jobs`.`id`);--> statement-breakpoint
DROP TABLE `search_rows`;--> statement-breakpoint
CREATE INDEX `jobs_by_search` ON `jobs` (`search_row`,`deleted_at`,`updated_at`,`id`);--> statement-breakpoint
DROP INDEX `jobs_by_update`;--> statement-breakpoint
CREATE INDEX `jobs_by_update` ON `jobs` (`deleted_at`,`updated_at`,`id`);--> statement-breakpoint
CREATE INDEX `readings_by_job` ON `readings` (`job_id`);
