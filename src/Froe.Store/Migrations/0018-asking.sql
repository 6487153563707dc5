-- Whose request it is: a deputy writes for the person who is away.
ALTER TABLE note ADD for_person uuid REFERENCES person;
UPDATE note n SET for_person = (l.payload::jsonb ->> 'for')::uuid
FROM ledger_entry l
WHERE l.action = 'request written' AND l.payload LIKE '%"for":"%' AND (l.payload::jsonb ->> 'note')::int = n.number AND l.person_id = n.author AND l.at = n.at;

-- Places in seats that were handed on, which slips keep from now on: told by their ledgers.
DO $$
DECLARE
    handed record;
    at int;
BEGIN
    FOR handed IN
        SELECT chain, payload::jsonb AS said FROM ledger_entry WHERE action = 'seat handed over' AND EXISTS (SELECT 1 FROM package WHERE id = chain) ORDER BY chain, sequence
    LOOP
        SELECT n - 1 INTO at FROM package, jsonb_array_elements(slip -> 'seats') WITH ORDINALITY AS s (seat, n) WHERE id = handed.chain AND seat ->> 'key' = handed.said ->> 'seat';
        CONTINUE WHEN at IS NULL;
        UPDATE package SET slip = jsonb_set(slip, ARRAY['seats', at::text, 'handed'], coalesce(slip #> ARRAY['seats', at::text, 'handed'], '[]') || jsonb_build_array(jsonb_build_object('from', handed.said -> 'from', 'to', handed.said -> 'to')))
        WHERE id = handed.chain;
    END LOOP;
END $$;
