-- Pictures that were put on drafts from somewhere else: as markups, and in notes. What they are called by is the SHA-256 of what is kept.
CREATE TABLE draft_picture (
    draft_id uuid NOT NULL REFERENCES draft,
    sha256   bytea NOT NULL CHECK (length(sha256) = 32),
    png      bytea NOT NULL CHECK (length(png) <= 4194304),
    width    integer NOT NULL CHECK (width > 0),
    height   integer NOT NULL CHECK (height > 0),
    put_by   uuid NOT NULL REFERENCES person,
    put_at   timestamptz NOT NULL,
    PRIMARY KEY (draft_id, sha256)
);
ALTER TABLE draft_picture ALTER COLUMN png SET STORAGE EXTERNAL;
GRANT SELECT, INSERT ON draft_picture TO froe_app;
