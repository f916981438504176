DROP TABLE trial_result;
DROP TABLE trial_part;
DROP TABLE trial;

-- Back to the sheet with the set in use; the other sets, tags and notes have no place there.
UPDATE woofer SET document = (document -> 'woofer') || (document -> 'sets' -> (document ->> 'in_use')::int -> 'figures');
