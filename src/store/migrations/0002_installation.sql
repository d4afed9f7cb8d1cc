ALTER TABLE `jobs` ADD `brought_up_at` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `readings` ADD `point` text;--> statement-breakpoint
ALTER TABLE `readings` ADD `taken_on` text;