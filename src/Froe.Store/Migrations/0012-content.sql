-- What is stored cannot be added to afterwards; what shrinks is stored compressed; a file that ends its reader is not tried for ever.

ALTER TABLE content
    -- How the chunks keep the bytes: as they are, or compressed ('br', RFC 7932). The hash and the size are of the bytes themselves.
    ADD encoding text NOT NULL DEFAULT '' CHECK (encoding IN ('', 'br'));

CREATE FUNCTION bar_late_chunks() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    -- Content is made of the chunks that arrive with it, in one transaction.
    IF EXISTS (SELECT 1 FROM added a LEFT JOIN content c ON c.sha256 = a.sha256 WHERE c.xmin IS DISTINCT FROM pg_current_xact_id()::xid) THEN
        RAISE EXCEPTION 'stored content cannot be added to' USING ERRCODE = 'insufficient_privilege';
    END IF;
    RETURN NULL;
END $$;
CREATE TRIGGER content_is_whole AFTER INSERT ON content_chunk REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION bar_late_chunks();

ALTER TABLE upload ADD size bigint NOT NULL DEFAULT 0;
UPDATE upload u SET size = c.size FROM content c WHERE c.sha256 = u.sha256;

-- What a shape is about follows from its points and is no part of it.
UPDATE note SET shape = shape - 'anchor' WHERE shape ? 'anchor';
