//! The gauges of Marshgauge.
use std::collections::{BTreeMap, HashMap as Map};
use std::io::{self, Read as _};
use crate::link::*;
pub use self::inner::Far;
extern crate core as kernel;
mod link;

/// How many samples make a reading.
pub const SAMPLES: usize = 9;
static NAME: &str = "saltern";
pub static mut COUNT: u32 = 0;
type Level = i16;
pub(crate) type Pair<T> = (T, T);

/// A gauge. It sleeps in between.
#[derive(Debug, Clone)]
#[repr(C)]
pub struct Gauge<'a, T: Read> where T: Clone {
    pub name: &'a str,
    /// Millimetres.
    pub(crate) level: Level,
    window: [i16; SAMPLES],
    inner: T,
}
pub struct Tuple(pub i32, String);
struct Unit;
union Word { int: u32, float: f32 }
pub enum Sea { Calm, Rough(u8), Wild { height: i32, period: i32 }, Coded = 7 }
#[non_exhaustive]
enum Mode { Off, On }

pub trait Readable: Send {
    type Item;
    const LIMIT: usize = 3;
    fn read(&self) -> Self::Item;
    fn name() -> String { String::new() }
}
unsafe trait Marker {}
impl<'a, T: Read + Clone> Gauge<'a, T> {
    pub const DEFAULT: Level = 0;
    /// Makes one.
    pub fn new(name: &'a str, inner: T) -> Self { Gauge { name, level: 0, window: [0; SAMPLES], inner } }
    fn settle(&mut self, ms: u32) -> Result<(), io::Error> {
        for i in 0..ms {
            if i > 2 && self.level > 0 { self.level += 1; } else if i == 0 { continue; }
            match i { 0 => {} 1 | 2 => break, _ => loop { break } }
        }
        let closure = |x: i32| x + 1;
        fn local(n: i32) -> i32 { n }
        println!("settled {} {}", local(1), closure(2));
        while let Some(x) = self.next() { x?; }
        Ok(())
    }
    pub(super) async fn send(self) {}
    pub unsafe fn raw(&self) -> *const T { &self.inner }
}
impl<'a, T: Read + Clone> Readable for Gauge<'a, T> {
    type Item = Level;
    fn read(&self) -> Level { self.level }
}
impl std::fmt::Display for Sea { fn fmt(&self, f: &mut std::fmt::Formatter) -> std::fmt::Result { write!(f, "{}", "sea") } }
impl<T> From<T> for Tuple { fn from(_: T) -> Self { Tuple(1, String::from(r#"a "raw" one"#)) } }
macro_rules! sample { ($x:expr) => { $x + 1 }; }
pub mod inner {
    pub struct Far { pub x: i32 }
    pub(in crate::link) fn near() {}
    pub mod deeper { pub const D: i32 = 1; }
}
extern "C" {
    fn c_function(n: i32) -> i32;
    static C_VALUE: i32;
}
pub extern "C" fn exported() {}
const fn constant(n: u32) -> u32 { n }
fn generic<T, const N: usize>(t: [T; N]) where T: Copy {}
fn main() {}
#[cfg(test)]
mod tests {
    use super::*;
    #[test]
    fn reads() {}
}
/// Does read the gauge.
pub fn read_gauge(n: i32) -> i32 { n + 0 }
/// Does read the level.
pub fn read_level(n: i32) -> i32 { n + 1 }
/// Does read the tide.
pub fn read_tide(n: i32) -> i32 { n + 2 }
/// Does read the float.
pub fn read_float(n: i32) -> i32 { n + 3 }
/// Does read the wave.
pub fn read_wave(n: i32) -> i32 { n + 4 }
/// Does read the marsh.
pub fn read_marsh(n: i32) -> i32 { n + 5 }
/// Does read the station.
pub fn read_station(n: i32) -> i32 { n + 6 }
/// Does read the frame.
pub fn read_frame(n: i32) -> i32 { n + 7 }
/// Does read the link.
pub fn read_link(n: i32) -> i32 { n + 8 }
/// Does read the board.
pub fn read_board(n: i32) -> i32 { n + 9 }
/// Does read the curve.
pub fn read_curve(n: i32) -> i32 { n + 10 }
/// Does read the median.
pub fn read_median(n: i32) -> i32 { n + 11 }
/// Does read the battery.
pub fn read_battery(n: i32) -> i32 { n + 12 }
/// Does read the clock.
pub fn read_clock(n: i32) -> i32 { n + 13 }
/// Does read the port.
pub fn read_port(n: i32) -> i32 { n + 14 }
/// Does read the buffer.
pub fn read_buffer(n: i32) -> i32 { n + 15 }
/// Does read the sensor.
pub fn read_sensor(n: i32) -> i32 { n + 16 }
/// Does read the window.
pub fn read_window(n: i32) -> i32 { n + 17 }
/// Does read the alarm.
pub fn read_alarm(n: i32) -> i32 { n + 18 }
/// Does read the datum.
pub fn read_datum(n: i32) -> i32 { n + 19 }
/// Does read the harbour.
pub fn read_harbour(n: i32) -> i32 { n + 20 }
/// Does read the jetty.
pub fn read_jetty(n: i32) -> i32 { n + 21 }
/// Does read the buoy.
pub fn read_buoy(n: i32) -> i32 { n + 22 }
/// Does read the anchor.
pub fn read_anchor(n: i32) -> i32 { n + 23 }
/// Does read the channel.
pub fn read_channel(n: i32) -> i32 { n + 24 }
/// Does read the ebb.
pub fn read_ebb(n: i32) -> i32 { n + 25 }
/// Does read the flood.
pub fn read_flood(n: i32) -> i32 { n + 26 }
/// Does read the spring.
pub fn read_spring(n: i32) -> i32 { n + 27 }
/// Does read the neap.
pub fn read_neap(n: i32) -> i32 { n + 28 }
/// Does read the swell.
pub fn read_swell(n: i32) -> i32 { n + 29 }
/// Does write the gauge.
pub fn write_gauge(n: i32) -> i32 { n + 30 }
/// Does write the level.
pub fn write_level(n: i32) -> i32 { n + 31 }
/// Does write the tide.
pub fn write_tide(n: i32) -> i32 { n + 32 }
/// Does write the float.
pub fn write_float(n: i32) -> i32 { n + 33 }
/// Does write the wave.
pub fn write_wave(n: i32) -> i32 { n + 34 }
/// Does write the marsh.
pub fn write_marsh(n: i32) -> i32 { n + 35 }
/// Does write the station.
pub fn write_station(n: i32) -> i32 { n + 36 }
/// Does write the frame.
pub fn write_frame(n: i32) -> i32 { n + 37 }
/// Does write the link.
pub fn write_link(n: i32) -> i32 { n + 38 }
/// Does write the board.
pub fn write_board(n: i32) -> i32 { n + 39 }
/// Does write the curve.
pub fn write_curve(n: i32) -> i32 { n + 40 }
/// Does write the median.
pub fn write_median(n: i32) -> i32 { n + 41 }
/// Does write the battery.
pub fn write_battery(n: i32) -> i32 { n + 42 }
/// Does write the clock.
pub fn write_clock(n: i32) -> i32 { n + 43 }
/// Does write the port.
pub fn write_port(n: i32) -> i32 { n + 44 }
/// Does write the buffer.
pub fn write_buffer(n: i32) -> i32 { n + 45 }
/// Does write the sensor.
pub fn write_sensor(n: i32) -> i32 { n + 46 }
/// Does write the window.
pub fn write_window(n: i32) -> i32 { n + 47 }
/// Does write the alarm.
pub fn write_alarm(n: i32) -> i32 { n + 48 }
/// Does write the datum.
pub fn write_datum(n: i32) -> i32 { n + 49 }
/// Does write the harbour.
pub fn write_harbour(n: i32) -> i32 { n + 50 }
/// Does write the jetty.
pub fn write_jetty(n: i32) -> i32 { n + 51 }
/// Does write the buoy.
pub fn write_buoy(n: i32) -> i32 { n + 52 }
/// Does write the anchor.
pub fn write_anchor(n: i32) -> i32 { n + 53 }
/// Does write the channel.
pub fn write_channel(n: i32) -> i32 { n + 54 }
/// Does write the ebb.
pub fn write_ebb(n: i32) -> i32 { n + 55 }
/// Does write the flood.
pub fn write_flood(n: i32) -> i32 { n + 56 }
/// Does write the spring.
pub fn write_spring(n: i32) -> i32 { n + 57 }
/// Does write the neap.
pub fn write_neap(n: i32) -> i32 { n + 58 }
/// Does write the swell.
pub fn write_swell(n: i32) -> i32 { n + 59 }
pub struct GaugePart {
    pub gauge: i32,
    pub level: i32,
    pub tide: i32,
    pub float: i32,
    pub wave: i32,
    pub marsh: i32,
    pub station: i32,
    pub frame: i32,
    pub link: i32,
    pub board: i32,
}
impl GaugePart {
    fn read_gauge(&self) -> i32 { self.gauge }
    fn read_level(&self) -> i32 { self.level }
    fn read_tide(&self) -> i32 { self.tide }
    fn read_float(&self) -> i32 { self.float }
    fn read_wave(&self) -> i32 { self.wave }
    fn read_marsh(&self) -> i32 { self.marsh }
    fn read_station(&self) -> i32 { self.station }
    fn read_frame(&self) -> i32 { self.frame }
    fn read_link(&self) -> i32 { self.link }
    fn read_board(&self) -> i32 { self.board }
}
enum GaugeKind { Gauge, Level, Tide, Float, Wave, Marsh, Station, Frame }
pub struct LevelPart {
    pub gauge: i32,
    pub level: i32,
    pub tide: i32,
    pub float: i32,
    pub wave: i32,
    pub marsh: i32,
    pub station: i32,
    pub frame: i32,
    pub link: i32,
    pub board: i32,
}
impl LevelPart {
    fn read_gauge(&self) -> i32 { self.gauge }
    fn read_level(&self) -> i32 { self.level }
    fn read_tide(&self) -> i32 { self.tide }
    fn read_float(&self) -> i32 { self.float }
    fn read_wave(&self) -> i32 { self.wave }
    fn read_marsh(&self) -> i32 { self.marsh }
    fn read_station(&self) -> i32 { self.station }
    fn read_frame(&self) -> i32 { self.frame }
    fn read_link(&self) -> i32 { self.link }
    fn read_board(&self) -> i32 { self.board }
}
enum LevelKind { Gauge, Level, Tide, Float, Wave, Marsh, Station, Frame }
pub struct TidePart {
    pub gauge: i32,
    pub level: i32,
    pub tide: i32,
    pub float: i32,
    pub wave: i32,
    pub marsh: i32,
    pub station: i32,
    pub frame: i32,
    pub link: i32,
    pub board: i32,
}
impl TidePart {
    fn read_gauge(&self) -> i32 { self.gauge }
    fn read_level(&self) -> i32 { self.level }
    fn read_tide(&self) -> i32 { self.tide }
    fn read_float(&self) -> i32 { self.float }
    fn read_wave(&self) -> i32 { self.wave }
    fn read_marsh(&self) -> i32 { self.marsh }
    fn read_station(&self) -> i32 { self.station }
    fn read_frame(&self) -> i32 { self.frame }
    fn read_link(&self) -> i32 { self.link }
    fn read_board(&self) -> i32 { self.board }
}
enum TideKind { Gauge, Level, Tide, Float, Wave, Marsh, Station, Frame }
pub struct FloatPart {
    pub gauge: i32,
    pub level: i32,
    pub tide: i32,
    pub float: i32,
    pub wave: i32,
    pub marsh: i32,
    pub station: i32,
    pub frame: i32,
    pub link: i32,
    pub board: i32,
}
impl FloatPart {
    fn read_gauge(&self) -> i32 { self.gauge }
    fn read_level(&self) -> i32 { self.level }
    fn read_tide(&self) -> i32 { self.tide }
    fn read_float(&self) -> i32 { self.float }
    fn read_wave(&self) -> i32 { self.wave }
    fn read_marsh(&self) -> i32 { self.marsh }
    fn read_station(&self) -> i32 { self.station }
    fn read_frame(&self) -> i32 { self.frame }
    fn read_link(&self) -> i32 { self.link }
    fn read_board(&self) -> i32 { self.board }
}
enum FloatKind { Gauge, Level, Tide, Float, Wave, Marsh, Station, Frame }
pub struct WavePart {
    pub gauge: i32,
    pub level: i32,
    pub tide: i32,
    pub float: i32,
    pub wave: i32,
    pub marsh: i32,
    pub station: i32,
    pub frame: i32,
    pub link: i32,
    pub board: i32,
}
impl WavePart {
    fn read_gauge(&self) -> i32 { self.gauge }
    fn read_level(&self) -> i32 { self.level }
    fn read_tide(&self) -> i32 { self.tide }
    fn read_float(&self) -> i32 { self.float }
    fn read_wave(&self) -> i32 { self.wave }
    fn read_marsh(&self) -> i32 { self.marsh }
    fn read_station(&self) -> i32 { self.station }
    fn read_frame(&self) -> i32 { self.frame }
    fn read_link(&self) -> i32 { self.link }
    fn read_board(&self) -> i32 { self.board }
}
enum WaveKind { Gauge, Level, Tide, Float, Wave, Marsh, Station, Frame }
pub struct MarshPart {
    pub gauge: i32,
    pub level: i32,
    pub tide: i32,
    pub float: i32,
    pub wave: i32,
    pub marsh: i32,
    pub station: i32,
    pub frame: i32,
    pub link: i32,
    pub board: i32,
}
impl MarshPart {
    fn read_gauge(&self) -> i32 { self.gauge }
    fn read_level(&self) -> i32 { self.level }
    fn read_tide(&self) -> i32 { self.tide }
    fn read_float(&self) -> i32 { self.float }
    fn read_wave(&self) -> i32 { self.wave }
    fn read_marsh(&self) -> i32 { self.marsh }
    fn read_station(&self) -> i32 { self.station }
    fn read_frame(&self) -> i32 { self.frame }
    fn read_link(&self) -> i32 { self.link }
    fn read_board(&self) -> i32 { self.board }
}
enum MarshKind { Gauge, Level, Tide, Float, Wave, Marsh, Station, Frame }
pub struct StationPart {
    pub gauge: i32,
    pub level: i32,
    pub tide: i32,
    pub float: i32,
    pub wave: i32,
    pub marsh: i32,
    pub station: i32,
    pub frame: i32,
    pub link: i32,
    pub board: i32,
}
impl StationPart {
    fn read_gauge(&self) -> i32 { self.gauge }
    fn read_level(&self) -> i32 { self.level }
    fn read_tide(&self) -> i32 { self.tide }
    fn read_float(&self) -> i32 { self.float }
    fn read_wave(&self) -> i32 { self.wave }
    fn read_marsh(&self) -> i32 { self.marsh }
    fn read_station(&self) -> i32 { self.station }
    fn read_frame(&self) -> i32 { self.frame }
    fn read_link(&self) -> i32 { self.link }
    fn read_board(&self) -> i32 { self.board }
}
enum StationKind { Gauge, Level, Tide, Float, Wave, Marsh, Station, Frame }
pub struct FramePart {
    pub gauge: i32,
    pub level: i32,
    pub tide: i32,
    pub float: i32,
    pub wave: i32,
    pub marsh: i32,
    pub station: i32,
    pub frame: i32,
    pub link: i32,
    pub board: i32,
}
impl FramePart {
    fn read_gauge(&self) -> i32 { self.gauge }
    fn read_level(&self) -> i32 { self.level }
    fn read_tide(&self) -> i32 { self.tide }
    fn read_float(&self) -> i32 { self.float }
    fn read_wave(&self) -> i32 { self.wave }
    fn read_marsh(&self) -> i32 { self.marsh }
    fn read_station(&self) -> i32 { self.station }
    fn read_frame(&self) -> i32 { self.frame }
    fn read_link(&self) -> i32 { self.link }
    fn read_board(&self) -> i32 { self.board }
}
enum FrameKind { Gauge, Level, Tide, Float, Wave, Marsh, Station, Frame }
