-- Numbers that differ in the case of their letters only are one to people, and files are often named in small letters. Documents that have
-- such numbers already keep them; the first of them stands for the others.
ALTER TABLE document ADD same_number text;
UPDATE document SET same_number = upper(number)
WHERE id IN (SELECT id FROM (SELECT id, row_number() OVER (PARTITION BY upper(number) ORDER BY registered_at, id) AS place FROM document) alike WHERE place = 1);
ALTER TABLE document ADD CONSTRAINT document_same_number UNIQUE (same_number);

CREATE FUNCTION tell_same_number() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    NEW.same_number := upper(NEW.number);
    RETURN NEW;
END $$;
CREATE TRIGGER document_same_number BEFORE INSERT ON document FOR EACH ROW EXECUTE FUNCTION tell_same_number();
