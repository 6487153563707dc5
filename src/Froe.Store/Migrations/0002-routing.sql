-- Routing in full: plans with editions, coordinators, absences, signatures that stand or not, and how long steps took.

ALTER TABLE person ADD COLUMN can_coordinate boolean NOT NULL DEFAULT false;
ALTER TABLE document ADD COLUMN folder text NOT NULL DEFAULT '';

-- ---- plans: one draft being worked on, and editions that never change ----
ALTER TABLE plan
    ADD COLUMN owner   uuid REFERENCES person,
    ADD COLUMN version int NOT NULL DEFAULT 1,
    ADD COLUMN edition int NOT NULL DEFAULT 0,
    ADD COLUMN retired boolean NOT NULL DEFAULT false;

CREATE TABLE plan_edition (
    plan_id      uuid NOT NULL REFERENCES plan,
    edition      int NOT NULL,
    body         jsonb NOT NULL,
    published_at timestamptz NOT NULL,
    published_by uuid REFERENCES person,
    PRIMARY KEY (plan_id, edition)
);
INSERT INTO plan_edition (plan_id, edition, body, published_at) SELECT id, 1, body, now() FROM plan;
UPDATE plan SET edition = 1;

ALTER TABLE package
    ADD COLUMN plan_id uuid REFERENCES plan,
    ADD COLUMN edition int;
-- The monitor: newest first, by standing and by plan.
CREATE INDEX package_sent ON package (sent_at DESC, id);
CREATE INDEX package_standing ON package (standing, sent_at DESC, id);
CREATE INDEX package_plan ON package (plan_id, sent_at DESC, id);
CREATE INDEX awaited_due ON awaited (due);

-- ---- signatures ----
-- A signature taken back, or asked for again in a new round, stays as a record and stands no more.
ALTER TABLE sign_off
    ADD COLUMN stands     boolean NOT NULL DEFAULT true,
    ADD COLUMN for_person uuid REFERENCES person,
    ADD COLUMN answers    jsonb NOT NULL DEFAULT '[]';
UPDATE sign_off s SET stands = false FROM package k WHERE k.id = s.package_id AND s.round < k.round;
ALTER TABLE sign_off DROP CONSTRAINT sign_off_package_id_round_seat_person_id_key;
CREATE UNIQUE INDEX sign_off_stands ON sign_off (package_id, seat, person_id) WHERE stands;
CREATE INDEX sign_off_package ON sign_off (package_id, at);

-- ---- when people are there ----
CREATE TABLE absence (
    id        uuid PRIMARY KEY,
    person_id uuid NOT NULL REFERENCES person,
    away_from timestamptz NOT NULL,
    back_at   timestamptz NOT NULL,
    deputy    uuid REFERENCES person,
    CHECK (back_at > away_from),
    CHECK (deputy <> person_id)
);
CREATE INDEX absence_person ON absence (person_id, back_at);
CREATE INDEX absence_deputy ON absence (deputy, back_at);

CREATE TABLE holiday (
    day  date PRIMARY KEY,
    name text NOT NULL,
    -- What is left of the day, in minutes from midnight: pairs of from and to; empty for none.
    left_of_day int[] NOT NULL DEFAULT '{}'
);

-- ---- how long steps took, for forecasts ----
CREATE TABLE step_passage (
    package_id uuid NOT NULL REFERENCES package,
    round      int NOT NULL,
    step       text NOT NULL,
    plan_id    uuid REFERENCES plan,
    opened_at  timestamptz NOT NULL,
    passed_at  timestamptz,
    PRIMARY KEY (package_id, round, step)
);
CREATE INDEX step_passage_past ON step_passage (plan_id, step, passed_at DESC) WHERE passed_at IS NOT NULL;

GRANT SELECT, INSERT, UPDATE, DELETE ON absence, holiday, step_passage TO froe_app;
GRANT SELECT, INSERT ON plan_edition TO froe_app;
GRANT UPDATE (stands) ON sign_off TO froe_app;
