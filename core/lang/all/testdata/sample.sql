-- Marshgauge's tables.
CREATE SCHEMA IF NOT EXISTS marsh;
CREATE EXTENSION pg_trgm;
/* One row a gauge.
   It never changes. */
CREATE TABLE marsh.station (
    id bigint PRIMARY KEY,
    name varchar(80) NOT NULL UNIQUE, -- as on the chart
    "quoted" text,
    at timestamptz DEFAULT now(),
    CONSTRAINT positive CHECK (id > 0),
    FOREIGN KEY (id) REFERENCES other (id)
);
create temporary table if not exists kept (n int);
CREATE OR REPLACE VIEW latest AS
    SELECT s.id, 'CREATE TABLE not_one (x int);' AS text FROM marsh.station s;
CREATE MATERIALIZED VIEW daily AS SELECT 1;
CREATE UNIQUE INDEX CONCURRENTLY station_name ON marsh.station (name);
CREATE TYPE sea AS ENUM ('calm', 'rough');
CREATE DOMAIN level AS int CHECK (VALUE > -5000);
CREATE SEQUENCE numbers START 1;
-- Settles a gauge.
CREATE OR REPLACE FUNCTION settle(ms int) RETURNS int AS $$
DECLARE
    kept int; -- TODO: longer
BEGIN
    RETURN ms;
END;
$$ LANGUAGE plpgsql;
CREATE PROCEDURE tidy() LANGUAGE sql AS $$ DELETE FROM kept; $$;
CREATE TRIGGER raised BEFORE INSERT ON marsh.station FOR EACH ROW EXECUTE FUNCTION settle();
CREATE POLICY own_rows ON kept USING (true);
ALTER TABLE kept ADD COLUMN z int;
INSERT INTO kept VALUES (1); -- CREATE TABLE commented (x int);
CREATE TABLE read_gauge (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_level (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_tide (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_float (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_wave (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_marsh (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_station (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_frame (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_link (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_board (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_curve (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_median (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_battery (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_clock (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_port (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_buffer (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_sensor (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_window (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_alarm (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_datum (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_harbour (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_jetty (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_buoy (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_anchor (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_channel (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_ebb (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_flood (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_spring (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_neap (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
CREATE TABLE read_swell (
    gauge integer,
    level integer,
    tide integer,
    float integer,
    wave integer,
    marsh integer,
    station integer,
    frame integer,
    link integer,
    last text
);
