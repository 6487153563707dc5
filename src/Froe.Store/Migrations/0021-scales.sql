-- Scales that people gave to sheets whose file does not say how large things are: each is kept, the last one holds.
CREATE TABLE draft_scale (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    draft_id uuid NOT NULL REFERENCES draft,
    position int NOT NULL,
    -- Millimetres of the thing itself in one unit of the sheet; null when a scale was taken back.
    millimetres double precision CHECK (millimetres > 0),
    -- From what: two points, a length and its unit, or a ratio.
    given jsonb NOT NULL,
    person_id uuid NOT NULL REFERENCES person,
    at timestamptz NOT NULL
);
CREATE INDEX draft_scale_last ON draft_scale (draft_id, position, id DESC);
GRANT SELECT, INSERT ON draft_scale TO froe_app;
