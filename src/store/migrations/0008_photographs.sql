CREATE TABLE `photographs` (
	`seq` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`id` text NOT NULL,
	`job_id` text NOT NULL,
	`photograph` text NOT NULL,
	`of` text NOT NULL,
	`words` text NOT NULL,
	`out` integer NOT NULL,
	`hash` text NOT NULL,
	`width_px` integer NOT NULL,
	`height_px` integer NOT NULL,
	`at` text NOT NULL,
	`by` text NOT NULL,
	FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `photograph_by_id` ON `photographs` (`job_id`,`id`);