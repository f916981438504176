DROP TABLE history;
DROP TABLE revision;
DROP TABLE build;
DROP TABLE woofer;
DROP TABLE owner;
