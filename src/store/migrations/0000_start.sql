CREATE TABLE `job_changes` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`job_id` text NOT NULL,
	`revision` integer NOT NULL,
	`kind` text NOT NULL,
	`label` text NOT NULL,
	`edit` text,
	`patches` text NOT NULL,
	`inverse` text NOT NULL,
	`parent` integer NOT NULL,
	`target` integer,
	`at` text NOT NULL,
	`by` text NOT NULL,
	FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `change_by_revision` ON `job_changes` (`job_id`,`revision`);--> statement-breakpoint
CREATE TABLE `jobs` (
	`id` text PRIMARY KEY NOT NULL,
	`revision` integer NOT NULL,
	`job` text NOT NULL,
	`title` text NOT NULL,
	`place` text NOT NULL,
	`region` text NOT NULL,
	`stage` text NOT NULL,
	`errors` integer NOT NULL,
	`warnings` integer NOT NULL,
	`undo_head` integer NOT NULL,
	`redo` text NOT NULL,
	`created_at` text NOT NULL,
	`updated_at` text NOT NULL,
	`deleted_at` text
);
--> statement-breakpoint
CREATE INDEX `jobs_by_update` ON `jobs` (`deleted_at`,`updated_at`);--> statement-breakpoint
CREATE TABLE `readings` (
	`seq` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`id` text NOT NULL,
	`job_id` text NOT NULL,
	`circuit` text NOT NULL,
	`test` text NOT NULL,
	`value` real,
	`mark` text,
	`unit` text NOT NULL,
	`at` text NOT NULL,
	`by` text NOT NULL,
	`instrument` text NOT NULL,
	`note` text NOT NULL,
	`corrects` text,
	FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `reading_by_id` ON `readings` (`job_id`,`id`);--> statement-breakpoint
CREATE TABLE `settings` (
	`key` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
