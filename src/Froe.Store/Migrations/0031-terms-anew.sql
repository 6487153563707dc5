-- What a note says besides its words may be changed by whoever wrote it, as its words may.
GRANT UPDATE (urgent, due, tags) ON note TO froe_app;
