-- A document of the version that then read it cannot be made from a newer one; what it kept of this goes back where it can be read.
UPDATE revision SET document = revision.document || work_plan.document
FROM work_plan
WHERE work_plan.revision_id = revision.id AND (revision.document ->> 'version')::integer < 5;

DROP TABLE work_plan;
