-- Alarms as they were raised; they are never changed.
CREATE TABLE alarm (
    station   integer NOT NULL REFERENCES station (id),
    raised_at timestamptz NOT NULL,
    level_mm  integer NOT NULL,
    PRIMARY KEY (station, raised_at)
);
