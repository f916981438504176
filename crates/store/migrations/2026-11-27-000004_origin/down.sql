DROP INDEX build_origin;
ALTER TABLE build DROP COLUMN origin;
