-- Stations, one row a gauge.
CREATE TABLE station (
    id       integer PRIMARY KEY CHECK (id BETWEEN 1 AND 65535),
    name     text NOT NULL UNIQUE,
    datum_mm integer NOT NULL DEFAULT 0, -- chart datum above the gauge's zero
    alarm_mm integer
);
