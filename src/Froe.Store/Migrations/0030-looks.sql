-- How an overlay's markups are drawn, and how somebody's new overlays begin; nothing is the usual look.
ALTER TABLE overlay ADD look jsonb;
GRANT UPDATE (look) ON overlay TO froe_app;
CREATE TABLE overlay_manner (
    person_id uuid PRIMARY KEY REFERENCES person,
    look      jsonb NOT NULL
);
GRANT SELECT, INSERT, UPDATE ON overlay_manner TO froe_app;
-- Markups that are picked and moved together, and what lies above or beneath the others.
ALTER TABLE markup
    ADD tie_id uuid,
    ADD rank integer NOT NULL DEFAULT 0;
GRANT UPDATE (tie_id, rank) ON markup TO froe_app;
