CREATE INDEX `jobs_by_kind` ON `jobs` (`deleted_at`,`region`,`stage`,`errors`,`updated_at`,`id`);
