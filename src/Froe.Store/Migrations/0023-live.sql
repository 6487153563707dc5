-- Whom a change of a package concerns is asked for with every change: by the package, not by the person.
CREATE INDEX package_told_package ON package_told (package_id);
