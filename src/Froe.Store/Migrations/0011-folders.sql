-- A folder has an id: renaming one changes folders, not what is filed in them. What lies where is kept for packages as well, so that
-- whoever may read some folders is answered from an index.

-- The folder that holds it; names hold no stroke.
ALTER TABLE folder
    ADD id     bigint GENERATED ALWAYS AS IDENTITY,
    ADD parent text GENERATED ALWAYS AS (CASE WHEN path = '' THEN NULL ELSE regexp_replace(path, '( / |^)[^/]*$', '') END) STORED;

ALTER TABLE document ADD folder_id bigint;
UPDATE document d SET folder_id = f.id FROM folder f WHERE f.path = d.folder;
ALTER TABLE document ALTER folder_id SET NOT NULL;
ALTER TABLE document_place ADD folder_id bigint;
UPDATE document_place d SET folder_id = f.id FROM folder f WHERE f.path = d.folder;
ALTER TABLE group_right ADD folder_id bigint;
UPDATE group_right g SET folder_id = f.id FROM folder f WHERE f.path = g.folder;

-- With the columns go their keys and indexes.
ALTER TABLE document DROP COLUMN folder;
ALTER TABLE document_place DROP COLUMN folder;
ALTER TABLE group_right DROP COLUMN folder;
ALTER TABLE folder DROP CONSTRAINT folder_pkey, ADD PRIMARY KEY (id), ADD CONSTRAINT folder_path_key UNIQUE (path);
ALTER TABLE document ADD CONSTRAINT document_folder_fkey FOREIGN KEY (folder_id) REFERENCES folder;
ALTER TABLE document_place ADD PRIMARY KEY (document_id, folder_id), ADD CONSTRAINT document_place_folder_fkey FOREIGN KEY (folder_id) REFERENCES folder;
ALTER TABLE group_right ADD PRIMARY KEY (group_id, right_name, folder_id), ADD CONSTRAINT group_right_folder_fkey FOREIGN KEY (folder_id) REFERENCES folder;
-- What is filed nowhere lies in the register itself.
CREATE FUNCTION root_folder() RETURNS bigint LANGUAGE sql STABLE AS $$ SELECT id FROM folder WHERE path = '' $$;
ALTER TABLE document ALTER folder_id SET DEFAULT root_folder();
CREATE INDEX folder_parent ON folder (parent, path);
CREATE INDEX folder_order ON folder (path COLLATE reading_order);
CREATE INDEX document_folder ON document (folder_id, number);
CREATE INDEX document_folder_discipline ON document (folder_id, discipline COLLATE reading_order);
CREATE INDEX document_place_folder ON document_place (folder_id, document_id);
CREATE INDEX group_right_folder ON group_right (folder_id);

-- How many items of a package, in all its rounds, are filed in a folder.
CREATE TABLE package_folder (
    package_id uuid NOT NULL REFERENCES package,
    folder_id  bigint NOT NULL REFERENCES folder,
    items      int NOT NULL,
    PRIMARY KEY (package_id, folder_id)
);
CREATE INDEX package_folder_folder ON package_folder (folder_id, package_id);
INSERT INTO package_folder SELECT i.package_id, d.folder_id, count(*) FROM package_item i JOIN document d ON d.id = i.document_id GROUP BY 1, 2;

-- Counts, not looks: two acts at once each add what they change, and whoever commits second adds to the first.
CREATE FUNCTION count_package_folders(packages uuid[], folders bigint[], changes int[]) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO package_folder AS f (package_id, folder_id, items)
    SELECT c.package, c.folder, sum(c.change)::int FROM unnest(packages, folders, changes) AS c (package, folder, change)
    GROUP BY 1, 2 HAVING sum(c.change) <> 0 ORDER BY 1, 2
    ON CONFLICT (package_id, folder_id) DO UPDATE SET items = f.items + excluded.items;
    DELETE FROM package_folder f USING (SELECT DISTINCT c.package, c.folder FROM unnest(packages, folders) AS c (package, folder)) c
    WHERE f.package_id = c.package AND f.folder_id = c.folder AND f.items = 0;
END $$;

CREATE FUNCTION items_added() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM count_package_folders(array_agg(t.package_id), array_agg(d.folder_id), array_agg(1)) FROM touched t JOIN document d ON d.id = t.document_id HAVING count(*) > 0;
    RETURN NULL;
END $$;
CREATE FUNCTION items_removed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM count_package_folders(array_agg(t.package_id), array_agg(d.folder_id), array_agg(-1)) FROM touched t JOIN document d ON d.id = t.document_id HAVING count(*) > 0;
    RETURN NULL;
END $$;
CREATE FUNCTION document_filed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM count_package_folders(array_agg(i.package_id), array_agg(c.folder), array_agg(c.change))
    FROM was o JOIN now n USING (id) JOIN package_item i ON i.document_id = n.id, LATERAL (VALUES (o.folder_id, -1), (n.folder_id, 1)) AS c (folder, change)
    WHERE o.folder_id <> n.folder_id HAVING count(*) > 0;
    RETURN NULL;
END $$;
CREATE TRIGGER package_folders_grow AFTER INSERT ON package_item REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION items_added();
CREATE TRIGGER package_folders_shrink AFTER DELETE ON package_item REFERENCING OLD TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION items_removed();
CREATE TRIGGER package_folders_follow AFTER UPDATE ON document REFERENCING OLD TABLE AS was NEW TABLE AS now FOR EACH STATEMENT EXECUTE FUNCTION document_filed();

GRANT SELECT, INSERT, UPDATE, DELETE ON package_folder TO froe_app;
GRANT USAGE ON SEQUENCE folder_id_seq TO froe_app;

-- A signature's draft cannot go: the server's role deletes no drafts. The reference wrote a page of log for each item signed.
ALTER TABLE verdict DROP CONSTRAINT verdict_draft_id_fkey;

-- The latest passages of a step, and how packages along a plan went, without sorting two years of them.
CREATE INDEX package_plan_released ON package (plan_id, sent_at DESC) WHERE standing = 'released';
