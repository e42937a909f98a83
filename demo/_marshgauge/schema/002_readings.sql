-- Readings, one row every six minutes and station.
-- TODO: partition by month before the third winter
CREATE TABLE reading (
    station  integer NOT NULL REFERENCES station (id),
    at       timestamptz NOT NULL,
    level_mm smallint NOT NULL,
    battery  smallint,
    note     text DEFAULT 'TODO is no comment here',
    PRIMARY KEY (station, at)
);
