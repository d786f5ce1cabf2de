-- Who signs in, what belongs to whom, and what is kept of it: hashes only.
-- depends: 0009-drafts

CREATE TABLE teacher (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    name text NOT NULL,
    password text NOT NULL, -- argon2id, in its own notation
    owner boolean NOT NULL DEFAULT false, -- looks after the server: adds and removes teachers
    made_at timestamptz NOT NULL DEFAULT now()
);
CREATE UNIQUE INDEX teacher_by_name ON teacher (lower(name));

-- Names of classes are their teachers' own; the word that students type is the school's.
ALTER TABLE class DROP CONSTRAINT class_name_key;
ALTER TABLE class ADD COLUMN word text UNIQUE;
ALTER TABLE class ADD COLUMN salt bytea NOT NULL DEFAULT uuid_send(gen_random_uuid());
ALTER TABLE class ADD COLUMN source_id text; -- the class in the lists of another system
ALTER TABLE class ADD COLUMN put_away_at timestamptz;
ALTER TABLE class ADD COLUMN made_at timestamptz NOT NULL DEFAULT now();

CREATE TABLE class_teacher (
    class_id integer NOT NULL REFERENCES class ON DELETE CASCADE,
    teacher_id integer NOT NULL REFERENCES teacher ON DELETE CASCADE,
    PRIMARY KEY (class_id, teacher_id)
);
CREATE INDEX class_teacher_by_teacher ON class_teacher (teacher_id);

ALTER TABLE student ADD COLUMN card bytea; -- argon2id of the card, with the salt of the class
ALTER TABLE student ADD COLUMN card_made_at timestamptz;
ALTER TABLE student ADD COLUMN left_at timestamptz;
ALTER TABLE student ADD COLUMN source_id text; -- the student in the lists of another system
CREATE UNIQUE INDEX student_by_card ON student (class_id, card);
CREATE INDEX submission_by_student ON submission (student_id);

ALTER TABLE exercise ADD COLUMN author_id integer REFERENCES teacher ON DELETE SET NULL;
ALTER TABLE draft ADD COLUMN teacher_id integer REFERENCES teacher ON DELETE CASCADE;
ALTER TABLE play ADD COLUMN teacher_id integer REFERENCES teacher ON DELETE CASCADE;

CREATE TABLE session (
    token bytea PRIMARY KEY, -- the SHA-256 of what the browser has
    teacher_id integer REFERENCES teacher ON DELETE CASCADE,
    student_id integer REFERENCES student ON DELETE CASCADE,
    made_at timestamptz NOT NULL DEFAULT now(),
    ends_at timestamptz NOT NULL,
    CHECK (num_nonnulls(teacher_id, student_id) = 1)
);
CREATE INDEX session_by_teacher ON session (teacher_id);
CREATE INDEX session_by_student ON session (student_id);

-- Tries at signing in that failed, or that are going on: each under the class, the name and the address it was for.
CREATE TABLE sign_in_try (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    key text NOT NULL,
    at timestamptz NOT NULL DEFAULT clock_timestamp()
);
CREATE INDEX sign_in_try_by_key ON sign_in_try (key, at);

-- The way in for the first teacher, good once.
CREATE TABLE first_link (
    token bytea PRIMARY KEY, -- the SHA-256 of what was printed
    ends_at timestamptz NOT NULL
);

-- The newest edition of the marking that worked on these records; an older one adds nothing any more.
CREATE TABLE edition (
    only_one boolean PRIMARY KEY DEFAULT true CHECK (only_one),
    number integer NOT NULL
);

-- A key is compared as a whole and may be long, so its hash stands in the index.
ALTER TABLE withdrawn DROP CONSTRAINT withdrawn_round_id_student_id_key_key;
CREATE UNIQUE INDEX withdrawn_once ON withdrawn (round_id, student_id, md5(key)) NULLS NOT DISTINCT;
DROP INDEX report_finding_by_key;
CREATE INDEX report_finding_by_key ON report_finding (md5(key));
