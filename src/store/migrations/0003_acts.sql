ALTER TABLE `job_changes` ADD `act` text;--> statement-breakpoint
CREATE UNIQUE INDEX `change_by_act` ON `job_changes` (`job_id`,`act`);
