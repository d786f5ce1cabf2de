-- A round that goes on with a newer version of its exercise remembers the one before: whose marks changed?
-- depends: 0003-own-marks

ALTER TABLE round ADD COLUMN previous_version_id integer REFERENCES exercise_version;
