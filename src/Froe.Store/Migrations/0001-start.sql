-- The first shape of Froe's database. Times are timestamptz (UTC); hashes are 32 raw bytes.

-- ---- people ----
CREATE TABLE person (
    id            uuid PRIMARY KEY,
    login         text NOT NULL UNIQUE,
    name          text NOT NULL,
    initials      text NOT NULL,
    title         text NOT NULL,
    email         text NOT NULL,
    time_zone     text NOT NULL,
    password_hash text NOT NULL,
    is_guest      boolean NOT NULL DEFAULT false,
    can_send      boolean NOT NULL DEFAULT false
);

CREATE TABLE person_group (
    id   uuid PRIMARY KEY,
    name text NOT NULL UNIQUE
);

CREATE TABLE group_member (
    group_id  uuid NOT NULL REFERENCES person_group,
    person_id uuid NOT NULL REFERENCES person,
    PRIMARY KEY (group_id, person_id)
);

-- ---- content: files by their hash, in chunks, never changed ----
CREATE TABLE content (
    sha256     bytea PRIMARY KEY,
    size       bigint NOT NULL,
    media_type text NOT NULL
);

CREATE TABLE content_chunk (
    sha256 bytea NOT NULL REFERENCES content DEFERRABLE INITIALLY DEFERRED,
    part   int NOT NULL,
    bytes  bytea NOT NULL,
    PRIMARY KEY (sha256, part)
);
-- Drawings compress in the browser's transfer already; compressing chunks again only costs.
ALTER TABLE content_chunk ALTER COLUMN bytes SET STORAGE EXTERNAL;

-- ---- register ----
CREATE TABLE document (
    id            uuid PRIMARY KEY,
    number        text NOT NULL UNIQUE,
    title         text NOT NULL,
    kind          text NOT NULL CHECK (kind IN ('drawing', 'model', 'supporting file')),
    discipline    text NOT NULL,
    originator    uuid NOT NULL REFERENCES person,
    registered_at timestamptz NOT NULL
);
CREATE INDEX document_originator ON document (originator, number);

CREATE TABLE revision (
    id          uuid PRIMARY KEY,
    document_id uuid NOT NULL REFERENCES document,
    ordinal     int NOT NULL,
    label       text NOT NULL,
    standing    text NOT NULL,
    released_at timestamptz,
    UNIQUE (document_id, ordinal),
    UNIQUE (document_id, label)
);
-- A document is released in one revision at a time, whatever happens at once.
CREATE UNIQUE INDEX revision_one_released ON revision (document_id) WHERE standing = 'released';
CREATE UNIQUE INDEX revision_one_active ON revision (document_id) WHERE standing IN ('in work', 'in review', 'returned');

CREATE TABLE draft (
    id          uuid PRIMARY KEY,
    document_id uuid NOT NULL REFERENCES document,
    revision_id uuid NOT NULL REFERENCES revision,
    ordinal     int NOT NULL,
    sha256      bytea NOT NULL REFERENCES content,
    file_name   text NOT NULL,
    uploaded_by uuid NOT NULL REFERENCES person,
    uploaded_at timestamptz NOT NULL,
    report      jsonb NOT NULL,
    UNIQUE (revision_id, ordinal)
);
CREATE INDEX draft_document ON draft (document_id);

CREATE TABLE draft_sheet (
    draft_id uuid NOT NULL REFERENCES draft,
    position int NOT NULL,
    name     text NOT NULL,
    unit     text NOT NULL,
    extents  double precision[] NOT NULL,
    geometry bytea NOT NULL REFERENCES content,
    picture  bytea NOT NULL REFERENCES content,
    small    bytea NOT NULL REFERENCES content,
    PRIMARY KEY (draft_id, position)
);

-- An upload before it has been read: content arrives, a worker reads it in a child process.
CREATE TABLE upload (
    id          uuid PRIMARY KEY,
    person_id   uuid NOT NULL REFERENCES person,
    sha256      bytea NOT NULL REFERENCES content,
    file_name   text NOT NULL,
    at          timestamptz NOT NULL,
    state       text NOT NULL CHECK (state IN ('waiting', 'reading', 'read', 'refused', 'used')),
    claimed_at  timestamptz,
    attempts    int NOT NULL DEFAULT 0,
    fault       text,
    report      jsonb,
    sheets      jsonb
);
CREATE INDEX upload_work ON upload (at) WHERE state IN ('waiting', 'reading');

-- ---- routing ----
CREATE TABLE plan (
    id      uuid PRIMARY KEY,
    name    text NOT NULL UNIQUE,
    purpose text NOT NULL,
    body    jsonb NOT NULL
);

CREATE SEQUENCE package_number START 101;

CREATE TABLE package (
    id         uuid PRIMARY KEY,
    number     text NOT NULL UNIQUE,
    title      text NOT NULL,
    note       text NOT NULL,
    originator uuid NOT NULL REFERENCES person,
    sent_at    timestamptz NOT NULL,
    round_at   timestamptz NOT NULL,
    round      int NOT NULL,
    standing   text NOT NULL,
    slip       jsonb NOT NULL,
    item_count int NOT NULL,
    last_note  int NOT NULL DEFAULT 0,
    ended_at   timestamptz
);
CREATE INDEX package_originator ON package (originator, sent_at DESC) WHERE ended_at IS NULL;

CREATE TABLE package_item (
    package_id  uuid NOT NULL REFERENCES package,
    round       int NOT NULL,
    position    int NOT NULL,
    document_id uuid NOT NULL REFERENCES document,
    revision_id uuid NOT NULL REFERENCES revision,
    draft_id    uuid NOT NULL REFERENCES draft,
    PRIMARY KEY (package_id, round, position)
);
CREATE INDEX package_item_document ON package_item (document_id);
CREATE INDEX package_item_draft ON package_item (draft_id);

CREATE TABLE package_informed (
    package_id uuid NOT NULL REFERENCES package,
    person_id  uuid NOT NULL REFERENCES person,
    PRIMARY KEY (package_id, person_id)
);
CREATE INDEX package_informed_person ON package_informed (person_id);

-- Whose signature is awaited where: what the desk lists. Rows go when the seat is settled.
CREATE TABLE awaited (
    person_id  uuid NOT NULL REFERENCES person,
    package_id uuid NOT NULL REFERENCES package,
    seat       text NOT NULL,
    step       text NOT NULL,
    since      timestamptz NOT NULL,
    due        timestamptz NOT NULL,
    PRIMARY KEY (package_id, seat, person_id)
);
CREATE INDEX awaited_person ON awaited (person_id, due);

CREATE TABLE sign_off (
    id         uuid PRIMARY KEY,
    package_id uuid NOT NULL REFERENCES package,
    round      int NOT NULL,
    seat       text NOT NULL,
    person_id  uuid NOT NULL REFERENCES person,
    at         timestamptz NOT NULL,
    statement  text NOT NULL,
    remark     text NOT NULL,
    UNIQUE (package_id, round, seat, person_id)
);

CREATE TABLE verdict (
    sign_off_id uuid NOT NULL REFERENCES sign_off,
    draft_id    uuid NOT NULL REFERENCES draft,
    sha256      bytea NOT NULL,
    verdict     text NOT NULL,
    reason      text NOT NULL,
    PRIMARY KEY (sign_off_id, draft_id)
);

-- ---- notes ----
CREATE TABLE note (
    id          uuid PRIMARY KEY,
    package_id  uuid NOT NULL REFERENCES package,
    number      int NOT NULL,
    document_id uuid NOT NULL REFERENCES document,
    draft_id    uuid NOT NULL REFERENCES draft,
    sheet       int NOT NULL,
    round       int NOT NULL,
    kind        text NOT NULL,
    standing    text NOT NULL,
    author      uuid NOT NULL REFERENCES person,
    at          timestamptz NOT NULL,
    body        text NOT NULL,
    shape       jsonb NOT NULL,
    zone        text,
    answer      text,
    UNIQUE (package_id, number)
);
CREATE INDEX note_open ON note (package_id) WHERE kind = 'request' AND standing IN ('open', 'answered');

CREATE TABLE note_act (
    note_id   uuid NOT NULL REFERENCES note,
    sequence  int NOT NULL,
    person_id uuid NOT NULL REFERENCES person,
    at        timestamptz NOT NULL,
    act       text NOT NULL,
    body      text NOT NULL,
    PRIMARY KEY (note_id, sequence)
);

-- ---- ledger: inserted, never changed ----
CREATE TABLE ledger_entry (
    chain     uuid NOT NULL,
    sequence  bigint NOT NULL,
    at        timestamptz NOT NULL,
    person_id uuid,
    action    text NOT NULL,
    reason    text NOT NULL,
    payload   text NOT NULL,
    before    bytea NOT NULL,
    hash      bytea NOT NULL,
    PRIMARY KEY (chain, sequence)
);

-- ---- messages ----
CREATE TABLE message (
    id        uuid PRIMARY KEY,
    person_id uuid NOT NULL REFERENCES person,
    at        timestamptz NOT NULL,
    subject   text NOT NULL,
    body      text NOT NULL,
    link      text NOT NULL,
    read_at   timestamptz
);
CREATE INDEX message_person ON message (person_id, at DESC, id);
CREATE INDEX message_unread ON message (person_id) WHERE read_at IS NULL;

CREATE TABLE outbox (
    message_id uuid PRIMARY KEY REFERENCES message,
    attempts   int NOT NULL DEFAULT 0,
    next_at    timestamptz NOT NULL,
    sent_at    timestamptz,
    fault      text
);
CREATE INDEX outbox_due ON outbox (next_at) WHERE sent_at IS NULL;

-- ---- server's own ----
CREATE TABLE server_key (
    name text PRIMARY KEY,
    xml  text NOT NULL
);

CREATE TABLE request_seen (
    person_id uuid NOT NULL,
    key       uuid NOT NULL,
    at        timestamptz NOT NULL,
    answer    text NOT NULL,
    PRIMARY KEY (person_id, key)
);

-- ---- what the server may do ----
GRANT USAGE ON SCHEMA public TO froe_app;
GRANT USAGE ON SEQUENCE package_number TO froe_app;
GRANT SELECT, INSERT, UPDATE, DELETE ON
    person, person_group, group_member, document, revision, upload, plan, package, package_item, package_informed,
    awaited, note, message, outbox, server_key, request_seen
    TO froe_app;
-- Files, drafts, signatures and the ledger are written once.
GRANT SELECT, INSERT ON content, content_chunk, draft, draft_sheet, sign_off, verdict, note_act, ledger_entry TO froe_app;
