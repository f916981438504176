DROP TABLE measurement;
DROP TABLE samples;
