ALTER TABLE `jobs` ADD `due` text;
