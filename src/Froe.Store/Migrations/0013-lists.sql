-- Which packages somebody sent is asked for with every list of who reads some folders only: of finished ones too, and for the ids alone.

CREATE INDEX package_sent_by ON package (originator) INCLUDE (id);
CREATE INDEX package_split_from ON package (split_from) WHERE split_from IS NOT NULL;
