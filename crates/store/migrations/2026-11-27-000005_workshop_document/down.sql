DROP TABLE workshop;
