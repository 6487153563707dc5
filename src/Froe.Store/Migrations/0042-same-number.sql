-- Numbers that differ in the case of their letters only are one to people, and files are often named in small letters. Documents that have
-- such numbers already keep them; the first of them stands for the others. Letters are those from A to Z, as in any database: in which
-- others are large ones of each other, databases differ, and a number must mean the same in the one that a backup is restored into.
CREATE FUNCTION same_number(number text) RETURNS text LANGUAGE sql IMMUTABLE AS 'SELECT upper(number COLLATE "C") COLLATE "default"';
ALTER TABLE document ADD same_number text;
UPDATE document SET same_number = same_number(number)
WHERE id IN (SELECT id FROM (SELECT id, row_number() OVER (PARTITION BY same_number(number) ORDER BY registered_at, id) AS place FROM document) alike WHERE place = 1);
ALTER TABLE document ADD CONSTRAINT document_same_number UNIQUE (same_number);

CREATE FUNCTION tell_same_number() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    NEW.same_number := same_number(NEW.number);
    RETURN NEW;
END $$;
CREATE TRIGGER document_same_number BEFORE INSERT ON document FOR EACH ROW EXECUTE FUNCTION tell_same_number();
