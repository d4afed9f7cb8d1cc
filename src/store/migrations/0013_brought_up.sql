ALTER TABLE `jobs` ADD `version` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `jobs` ADD `set_aside` text;--> statement-breakpoint
CREATE INDEX `jobs_by_version` ON `jobs` (`version`,`set_aside`);--> statement-breakpoint
UPDATE `jobs` SET `version` = 4 WHERE (SELECT user_version FROM pragma_user_version) >= 4;