DROP TABLE log_photo;
DROP TABLE photo;
DROP TABLE log_entry;
