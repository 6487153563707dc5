-- Sessions are rows, so that they can be ended; people can be barred; wrong guesses are counted; what guards of the office ask for is kept.

ALTER TABLE person
    ADD barred_at     timestamptz,
    ADD barred_reason text NOT NULL DEFAULT '';

CREATE TABLE session (
    id         uuid PRIMARY KEY,
    person_id  uuid NOT NULL REFERENCES person,
    began_at   timestamptz NOT NULL,
    seen_at    timestamptz NOT NULL,
    -- However much it is used, it ends here.
    ends_at    timestamptz NOT NULL,
    ended_at   timestamptz,
    address    text NOT NULL,
    browser    text NOT NULL
);
CREATE INDEX session_person ON session (person_id, seen_at DESC) WHERE ended_at IS NULL;
CREATE INDEX session_old ON session (began_at);

-- Wrong guesses, by what they were made at: an account, an address, a browser that has signed in before, a confirmation.
CREATE TABLE guess (
    at      text PRIMARY KEY,
    wrong   int NOT NULL,
    last_at timestamptz NOT NULL
);
CREATE INDEX guess_old ON guess (last_at);

-- What happened at the doors: inserted, never changed by the server.
CREATE TABLE security_event (
    id        uuid PRIMARY KEY,
    at        timestamptz NOT NULL,
    kind      text NOT NULL,
    person_id uuid,
    login     text NOT NULL,
    address   text NOT NULL,
    words     text NOT NULL
);
CREATE INDEX security_event_at ON security_event (at, id);
CREATE INDEX security_event_kind ON security_event (kind, at, id);

GRANT SELECT, INSERT, UPDATE, DELETE ON session, guess TO froe_app;
GRANT SELECT, INSERT ON security_event TO froe_app;

-- A request's key keeps one from being carried out twice within days, not years.
CREATE INDEX request_seen_old ON request_seen (at);

-- Who stands in for whom at a moment: of several absences at once, the one that began last says it.
CREATE FUNCTION stand_ins(moment timestamptz) RETURNS TABLE (person_id uuid, deputy uuid) LANGUAGE sql STABLE AS $$
    SELECT DISTINCT ON (a.person_id) a.person_id, a.deputy FROM absence a
    WHERE a.deputy IS NOT NULL AND a.away_from <= moment AND a.back_at > moment ORDER BY a.person_id, a.away_from DESC, a.id
$$;

-- A link that sets a password once: how the first administrator comes in.
CREATE TABLE invitation (
    sha256    bytea PRIMARY KEY,
    person_id uuid NOT NULL REFERENCES person,
    ends_at   timestamptz NOT NULL,
    used_at   timestamptz
);
GRANT SELECT, INSERT, UPDATE, DELETE ON invitation TO froe_app;

-- The office's acts are two more (OfficeActs).
DROP INDEX ledger_office;
CREATE INDEX ledger_office ON ledger_entry (at, chain, sequence) WHERE action IN
    ('rights given', 'group made', 'group changed', 'group removed', 'person added', 'person changed', 'absence entered', 'deputy named', 'absence removed', 'calendar made', 'calendar changed', 'calendar removed', 'folder made', 'folder moved', 'folder removed', 'chain of standings set', 'person barred', 'person let in again');
