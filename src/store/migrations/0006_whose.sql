ALTER TABLE `jobs` ADD `open` integer;--> statement-breakpoint
ALTER TABLE `jobs` ADD `last_by` text DEFAULT '' NOT NULL;--> statement-breakpoint
UPDATE `jobs` SET `last_by` = coalesce((SELECT `by` FROM `job_changes` WHERE `job_id` = `jobs`.`id` ORDER BY `revision` DESC LIMIT 1), '');--> statement-breakpoint
CREATE INDEX `jobs_by_hand` ON `jobs` (`deleted_at`,`last_by`,`open`,`updated_at`,`id`);
