DROP TABLE slip;
DROP TABLE listener;
DROP TABLE listening;
