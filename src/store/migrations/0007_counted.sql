ALTER TABLE `jobs` ADD `counted` integer DEFAULT true NOT NULL;--> statement-breakpoint
CREATE INDEX `jobs_to_count` ON `jobs` (`updated_at`,`id`) WHERE not counted;