-- Exercises in versions, classes, tries, reports. Times are UTC.

CREATE TABLE exercise (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    slug text NOT NULL UNIQUE
);

-- A version never changes once a script was marked with it; a changed exercise is a new one.
CREATE TABLE exercise_version (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    exercise_id integer NOT NULL REFERENCES exercise ON DELETE CASCADE,
    number integer NOT NULL,
    digest text NOT NULL,
    title text NOT NULL,
    out_of numeric(7, 1) NOT NULL,
    seconds double precision NOT NULL,
    scenarios jsonb NOT NULL,
    made_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (exercise_id, number),
    UNIQUE (exercise_id, digest)
);

CREATE TABLE exercise_file (
    version_id integer NOT NULL REFERENCES exercise_version ON DELETE CASCADE,
    name text NOT NULL,
    content bytea NOT NULL,
    PRIMARY KEY (version_id, name)
);

CREATE TABLE class (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    name text NOT NULL UNIQUE
);

CREATE TABLE student (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    class_id integer NOT NULL REFERENCES class ON DELETE CASCADE,
    name text NOT NULL,
    UNIQUE (class_id, name)
);

-- One class at one version of an exercise.
CREATE TABLE round (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    class_id integer NOT NULL REFERENCES class ON DELETE CASCADE,
    version_id integer NOT NULL REFERENCES exercise_version ON DELETE CASCADE,
    opened_at timestamptz NOT NULL DEFAULT now(),
    marking_since timestamptz NOT NULL DEFAULT now(),
    UNIQUE (class_id, version_id)
);

CREATE TABLE try (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    round_id integer NOT NULL REFERENCES round ON DELETE CASCADE,
    student_id integer NOT NULL REFERENCES student ON DELETE CASCADE,
    number integer NOT NULL,
    file_name text NOT NULL,
    source bytea NOT NULL,
    digest text NOT NULL,
    handed_in_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (round_id, student_id, number)
);
CREATE INDEX try_by_digest ON try (digest);

-- What a text earned with a version: the same text is not marked twice.
CREATE TABLE report (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    version_id integer NOT NULL REFERENCES exercise_version ON DELETE CASCADE,
    digest text NOT NULL,
    status text NOT NULL CHECK (status IN ('marked', 'unreadable', 'stopped')),
    marks numeric(7, 1) NOT NULL,
    out_of numeric(7, 1) NOT NULL,
    whole jsonb NOT NULL,
    made_by integer NOT NULL, -- the edition of the marking; reports of an older one are made anew
    made_at timestamptz NOT NULL DEFAULT clock_timestamp(),
    UNIQUE (version_id, digest)
);

-- Marks and findings also as rows, so that SQL can count them.
CREATE TABLE report_check (
    report_id integer NOT NULL REFERENCES report ON DELETE CASCADE,
    scenario integer NOT NULL,
    place integer NOT NULL,
    verdict text NOT NULL CHECK (verdict IN ('held', 'broken', 'not reached')),
    marks numeric(7, 1) NOT NULL,
    out_of numeric(7, 1) NOT NULL,
    PRIMARY KEY (report_id, scenario, place)
);

CREATE TABLE report_finding (
    report_id integer NOT NULL REFERENCES report ON DELETE CASCADE,
    place integer NOT NULL,
    slip text NOT NULL,
    about text NOT NULL,
    confidence text NOT NULL,
    lines integer[] NOT NULL,
    checks jsonb NOT NULL,
    marks_lost numeric(7, 1) NOT NULL,
    PRIMARY KEY (report_id, place)
);
