DROP TABLE amplifier;
