-- Rights by group and folder, calendars, chains of standing, lateness, advice, packages prepared or split off.

CREATE EXTENSION IF NOT EXISTS pg_trgm;

-- ---- folders ----
CREATE TABLE folder (
    path  text PRIMARY KEY,
    chain jsonb
);
INSERT INTO folder (path) SELECT '' UNION SELECT DISTINCT folder FROM document;
ALTER TABLE document ADD FOREIGN KEY (folder) REFERENCES folder ON UPDATE CASCADE;
CREATE INDEX document_folder ON document (folder, number);
-- Found here as well: a document filed as a copy stays where it is.
CREATE TABLE document_place (
    document_id uuid NOT NULL REFERENCES document,
    folder      text NOT NULL REFERENCES folder ON UPDATE CASCADE,
    PRIMARY KEY (document_id, folder)
);
CREATE INDEX document_place_folder ON document_place (folder, document_id);
-- Where a revision in work stands in its folder's chain; empty for the chain's first standing.
ALTER TABLE revision ADD COLUMN stage text NOT NULL DEFAULT '';

-- ---- rights, given to groups for folders ----
CREATE TABLE group_right (
    group_id   uuid NOT NULL REFERENCES person_group ON DELETE CASCADE,
    right_name text NOT NULL,
    folder     text NOT NULL REFERENCES folder ON UPDATE CASCADE,
    PRIMARY KEY (group_id, right_name, folder)
);
CREATE INDEX group_member_person ON group_member (person_id);
ALTER TABLE person_group ALTER COLUMN id SET DEFAULT gen_random_uuid();
INSERT INTO person_group (name) VALUES ('Staff'), ('Originators'), ('Coordinators'), ('Administrators'), ('Guests') ON CONFLICT DO NOTHING;
INSERT INTO group_right (group_id, right_name, folder)
SELECT g.id, r.name, '' FROM person_group g JOIN (VALUES
    ('Staff', 'read'), ('Staff', 'sign'), ('Guests', 'sign'),
    ('Originators', 'send'), ('Originators', 'unlockReleased'),
    ('Coordinators', 'buildPlans'), ('Coordinators', 'coordinate'), ('Coordinators', 'moveStandings'), ('Coordinators', 'unlockReleased'),
    ('Administrators', 'administer')) AS r (of, name) ON r.of = g.name;
INSERT INTO group_member (group_id, person_id)
SELECT g.id, p.id FROM person_group g JOIN person p ON
    (g.name = 'Staff' AND NOT p.is_guest) OR (g.name = 'Guests' AND p.is_guest) OR (g.name = 'Originators' AND p.can_send)
    OR (g.name IN ('Coordinators', 'Administrators') AND p.can_coordinate) ON CONFLICT DO NOTHING;
ALTER TABLE person DROP COLUMN can_send, DROP COLUMN can_coordinate;

-- ---- calendars ----
CREATE TABLE calendar (
    id   uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    name text NOT NULL UNIQUE,
    -- Seven days, Sunday first: each a list of {from, to} in minutes from midnight.
    week jsonb NOT NULL
);
INSERT INTO calendar (name, week) VALUES ('Office',
    '[[],[{"from":510,"to":720},{"from":780,"to":1050}],[{"from":510,"to":720},{"from":780,"to":1050}],[{"from":510,"to":720},{"from":780,"to":1050}],[{"from":510,"to":720},{"from":780,"to":1050}],[{"from":510,"to":720},{"from":780,"to":1050}],[]]');
ALTER TABLE person ADD COLUMN calendar_id uuid REFERENCES calendar;
ALTER TABLE holiday ADD COLUMN calendar_id uuid REFERENCES calendar ON DELETE CASCADE;
UPDATE holiday SET calendar_id = (SELECT id FROM calendar);
ALTER TABLE holiday ALTER COLUMN calendar_id SET NOT NULL, DROP CONSTRAINT holiday_pkey, ADD PRIMARY KEY (calendar_id, day);

-- ---- reminders and lateness ----
-- The next moment at which somebody is reminded or told; null when there is none left.
ALTER TABLE awaited ADD COLUMN nudge_at timestamptz;
UPDATE awaited SET nudge_at = due;
CREATE INDEX awaited_nudge ON awaited (nudge_at) WHERE nudge_at IS NOT NULL;
CREATE TABLE step_late (
    package_id uuid NOT NULL REFERENCES package,
    round      int NOT NULL,
    step       text NOT NULL,
    days       int NOT NULL,
    opened_at  timestamptz NOT NULL,
    PRIMARY KEY (package_id, round, step, days, opened_at)
);

-- ---- how people want to hear ----
CREATE TABLE post_hours (
    person_id  uuid PRIMARY KEY REFERENCES person,
    mode       text NOT NULL,
    digest_at  int NOT NULL,
    quiet_from int NOT NULL,
    quiet_to   int NOT NULL
);
ALTER TABLE outbox ADD COLUMN put_off_to timestamptz;

-- ---- packages ----
ALTER TABLE package
    ADD COLUMN held       boolean NOT NULL DEFAULT false,
    ADD COLUMN split_from uuid REFERENCES package;
CREATE INDEX package_held ON package (originator) WHERE held;
CREATE INDEX package_ended ON package (originator, ended_at DESC) WHERE ended_at IS NOT NULL;
-- Pages go backwards in time with the same order on both columns, so that no page is sorted.
DROP INDEX package_sent, package_standing, package_plan;
CREATE INDEX package_sent ON package (sent_at, id);
CREATE INDEX package_standing ON package (standing, sent_at, id);
CREATE INDEX package_plan ON package (plan_id, sent_at, id);
CREATE INDEX package_words ON package USING gin (number gin_trgm_ops, title gin_trgm_ops);
CREATE INDEX document_words ON document USING gin (number gin_trgm_ops, title gin_trgm_ops);

-- Who holds a seat of a package, open or still to come.
CREATE TABLE package_seat (
    package_id uuid NOT NULL REFERENCES package,
    person_id  uuid NOT NULL REFERENCES person,
    PRIMARY KEY (person_id, package_id)
);
CREATE INDEX package_seat_package ON package_seat (package_id);
INSERT INTO package_seat (package_id, person_id)
SELECT DISTINCT k.id, (p #>> '{}')::uuid FROM package k, jsonb_path_query(k.slip, '$.seats[*].people[*]') p;

CREATE TABLE prepared_package (
    id        uuid PRIMARY KEY,
    person_id uuid NOT NULL REFERENCES person,
    at        timestamptz NOT NULL,
    title     text NOT NULL,
    note      text NOT NULL,
    plan_id   uuid REFERENCES plan,
    documents uuid[] NOT NULL,
    answers   jsonb NOT NULL,
    because   text NOT NULL
);
CREATE INDEX prepared_package_person ON prepared_package (person_id, at DESC);

-- Which drafts a person has had open before them: what signing many at once asks for.
CREATE TABLE draft_opened (
    person_id uuid NOT NULL REFERENCES person,
    draft_id  uuid NOT NULL REFERENCES draft,
    at        timestamptz NOT NULL,
    PRIMARY KEY (person_id, draft_id)
);

CREATE TABLE advice (
    id          uuid PRIMARY KEY,
    package_id  uuid NOT NULL REFERENCES package,
    note_id     uuid REFERENCES note,
    asked_by    uuid NOT NULL REFERENCES person,
    asked_of    uuid NOT NULL REFERENCES person,
    at          timestamptz NOT NULL,
    question    text NOT NULL,
    answer      text,
    answered_at timestamptz
);
CREATE INDEX advice_package ON advice (package_id, at);
CREATE INDEX advice_waiting ON advice (asked_of, at) WHERE answer IS NULL;

GRANT SELECT, INSERT, UPDATE, DELETE ON
    folder, document_place, group_right, calendar, step_late, post_hours, package_seat, prepared_package, draft_opened, advice
    TO froe_app;
