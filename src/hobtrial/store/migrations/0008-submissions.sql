-- People read "try"; the records have one word that is no keyword of any language.
-- depends: 0007-unmarked

ALTER TABLE try RENAME TO submission;
ALTER INDEX try_by_digest RENAME TO submission_by_digest;
ALTER TABLE own_mark RENAME COLUMN try_id TO submission_id;
ALTER TABLE prediction RENAME COLUMN try_id TO submission_id;
ALTER TABLE report_finding RENAME COLUMN place TO index;
