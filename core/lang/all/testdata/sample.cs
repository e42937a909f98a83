using System;
using System.Collections.Generic;
using static System.Math;
using Text = System.Text;
global using Marsh.Core;

namespace Marsh.Gauges;

/// <summary>Reads a gauge. It sleeps in between.</summary>
/// <param name="name">as on the chart</param>
[Serializable]
public abstract partial class Gauge<T> : Base, IReadable where T : struct
{
    private const int Samples = 9, Window = 3;
    public static readonly string Name = "salt" + @"\ern" + $"of {Samples}";
    internal int level;
    protected internal volatile bool ready;
    private protected int both;
    int plain;
    public int Level { get; private set; } = 1;
    public int Twice => level * 2;
    public required string Id { get; init; }
    public virtual int Checked { get { return level; } set { if (value > 0 && ready) level = value; } }
    public event EventHandler Raised;
    public event EventHandler Cleared { add { } remove { } }
    public int this[int i] { get => i; set { } }
    public Gauge(int level) : base(level) { this.level = level; }
    static Gauge() { }
    ~Gauge() { }
    public static Gauge<T> operator +(Gauge<T> a, Gauge<T> b) => a;
    public static bool operator ==(Gauge<T> a, Gauge<T> b) { return true; }
    public static implicit operator int(Gauge<T> g) => 1;
    public static explicit operator string(Gauge<T> g) => "";
    public abstract int Read();
    public async Task<int> Settle<U>(U unit, params int[] rest) where U : class
    {
        int Local(int n) { return n; }
        foreach (var r in rest) { if (r > 0) { } else if (r < 0) { } }
        var word = rest.Length switch { 0 => "none", 1 => "one", _ => "more" };
        try { await Task.Delay(1); } catch (Exception e) when (e != null) { }
        Func<int, int> f = x => x + 1;
        return Local(level ?? 1);
    }
    internal static void Make(out int a, ref int b, in int c, int d = 1) { a = 1; }
    int IReadable.Hidden() => 1;
    private class Inner { public int Deep; }
    public delegate void Handler(int n);
    protected enum Mode : byte { Off, On = 1, Auto }
}

public interface IReadable { int Read(); string Name { get; } event EventHandler Changed; int Default() => 1; }
public struct Point { public int X, Y; public Point(int x, int y) { X = x; Y = y; } }
public readonly record struct Span(int Start, int End);
public record Reading(DateTime At, int Level) { public int Rounded => Level; }
internal static class Extensions { public static int Half(this int n) => n / 2; }
public enum Sea { Calm, Rough = 4 }
delegate int Free(int n);
file class OnlyHere { }
static class Program { static int Main(string[] args) { return 0; } }
public class GaugePart
{
    public int ReadGauge(int n) { return n; }
    public int ReadLevel(int n) { return n; }
    public int ReadTide(int n) { return n; }
    public int ReadFloat(int n) { return n; }
    public int ReadWave(int n) { return n; }
    public int ReadMarsh(int n) { return n; }
    public int ReadStation(int n) { return n; }
    public int ReadFrame(int n) { return n; }
    public int ReadLink(int n) { return n; }
    public int ReadBoard(int n) { return n; }
    public int ReadCurve(int n) { return n; }
    public int ReadMedian(int n) { return n; }
    public int ReadBattery(int n) { return n; }
    public int ReadClock(int n) { return n; }
    private int gauge;
    private int level;
    private int tide;
    private int float;
    private int wave;
    private int marsh;
    private int station;
    private int frame;
    private int link;
    public int GaugeNow { get; set; }
    public int LevelNow { get; set; }
    public int TideNow { get; set; }
    public int FloatNow { get; set; }
    public int WaveNow { get; set; }
    public int MarshNow { get; set; }
    public int StationNow { get; set; }
    public int FrameNow { get; set; }
}
public class LevelPart
{
    public int ReadGauge(int n) { return n; }
    public int ReadLevel(int n) { return n; }
    public int ReadTide(int n) { return n; }
    public int ReadFloat(int n) { return n; }
    public int ReadWave(int n) { return n; }
    public int ReadMarsh(int n) { return n; }
    public int ReadStation(int n) { return n; }
    public int ReadFrame(int n) { return n; }
    public int ReadLink(int n) { return n; }
    public int ReadBoard(int n) { return n; }
    public int ReadCurve(int n) { return n; }
    public int ReadMedian(int n) { return n; }
    public int ReadBattery(int n) { return n; }
    public int ReadClock(int n) { return n; }
    private int gauge;
    private int level;
    private int tide;
    private int float;
    private int wave;
    private int marsh;
    private int station;
    private int frame;
    private int link;
    public int GaugeNow { get; set; }
    public int LevelNow { get; set; }
    public int TideNow { get; set; }
    public int FloatNow { get; set; }
    public int WaveNow { get; set; }
    public int MarshNow { get; set; }
    public int StationNow { get; set; }
    public int FrameNow { get; set; }
}
public class TidePart
{
    public int ReadGauge(int n) { return n; }
    public int ReadLevel(int n) { return n; }
    public int ReadTide(int n) { return n; }
    public int ReadFloat(int n) { return n; }
    public int ReadWave(int n) { return n; }
    public int ReadMarsh(int n) { return n; }
    public int ReadStation(int n) { return n; }
    public int ReadFrame(int n) { return n; }
    public int ReadLink(int n) { return n; }
    public int ReadBoard(int n) { return n; }
    public int ReadCurve(int n) { return n; }
    public int ReadMedian(int n) { return n; }
    public int ReadBattery(int n) { return n; }
    public int ReadClock(int n) { return n; }
    private int gauge;
    private int level;
    private int tide;
    private int float;
    private int wave;
    private int marsh;
    private int station;
    private int frame;
    private int link;
    public int GaugeNow { get; set; }
    public int LevelNow { get; set; }
    public int TideNow { get; set; }
    public int FloatNow { get; set; }
    public int WaveNow { get; set; }
    public int MarshNow { get; set; }
    public int StationNow { get; set; }
    public int FrameNow { get; set; }
}
public class FloatPart
{
    public int ReadGauge(int n) { return n; }
    public int ReadLevel(int n) { return n; }
    public int ReadTide(int n) { return n; }
    public int ReadFloat(int n) { return n; }
    public int ReadWave(int n) { return n; }
    public int ReadMarsh(int n) { return n; }
    public int ReadStation(int n) { return n; }
    public int ReadFrame(int n) { return n; }
    public int ReadLink(int n) { return n; }
    public int ReadBoard(int n) { return n; }
    public int ReadCurve(int n) { return n; }
    public int ReadMedian(int n) { return n; }
    public int ReadBattery(int n) { return n; }
    public int ReadClock(int n) { return n; }
    private int gauge;
    private int level;
    private int tide;
    private int float;
    private int wave;
    private int marsh;
    private int station;
    private int frame;
    private int link;
    public int GaugeNow { get; set; }
    public int LevelNow { get; set; }
    public int TideNow { get; set; }
    public int FloatNow { get; set; }
    public int WaveNow { get; set; }
    public int MarshNow { get; set; }
    public int StationNow { get; set; }
    public int FrameNow { get; set; }
}
public class WavePart
{
    public int ReadGauge(int n) { return n; }
    public int ReadLevel(int n) { return n; }
    public int ReadTide(int n) { return n; }
    public int ReadFloat(int n) { return n; }
    public int ReadWave(int n) { return n; }
    public int ReadMarsh(int n) { return n; }
    public int ReadStation(int n) { return n; }
    public int ReadFrame(int n) { return n; }
    public int ReadLink(int n) { return n; }
    public int ReadBoard(int n) { return n; }
    public int ReadCurve(int n) { return n; }
    public int ReadMedian(int n) { return n; }
    public int ReadBattery(int n) { return n; }
    public int ReadClock(int n) { return n; }
    private int gauge;
    private int level;
    private int tide;
    private int float;
    private int wave;
    private int marsh;
    private int station;
    private int frame;
    private int link;
    public int GaugeNow { get; set; }
    public int LevelNow { get; set; }
    public int TideNow { get; set; }
    public int FloatNow { get; set; }
    public int WaveNow { get; set; }
    public int MarshNow { get; set; }
    public int StationNow { get; set; }
    public int FrameNow { get; set; }
}
public class MarshPart
{
    public int ReadGauge(int n) { return n; }
    public int ReadLevel(int n) { return n; }
    public int ReadTide(int n) { return n; }
    public int ReadFloat(int n) { return n; }
    public int ReadWave(int n) { return n; }
    public int ReadMarsh(int n) { return n; }
    public int ReadStation(int n) { return n; }
    public int ReadFrame(int n) { return n; }
    public int ReadLink(int n) { return n; }
    public int ReadBoard(int n) { return n; }
    public int ReadCurve(int n) { return n; }
    public int ReadMedian(int n) { return n; }
    public int ReadBattery(int n) { return n; }
    public int ReadClock(int n) { return n; }
    private int gauge;
    private int level;
    private int tide;
    private int float;
    private int wave;
    private int marsh;
    private int station;
    private int frame;
    private int link;
    public int GaugeNow { get; set; }
    public int LevelNow { get; set; }
    public int TideNow { get; set; }
    public int FloatNow { get; set; }
    public int WaveNow { get; set; }
    public int MarshNow { get; set; }
    public int StationNow { get; set; }
    public int FrameNow { get; set; }
}
public class StationPart
{
    public int ReadGauge(int n) { return n; }
    public int ReadLevel(int n) { return n; }
    public int ReadTide(int n) { return n; }
    public int ReadFloat(int n) { return n; }
    public int ReadWave(int n) { return n; }
    public int ReadMarsh(int n) { return n; }
    public int ReadStation(int n) { return n; }
    public int ReadFrame(int n) { return n; }
    public int ReadLink(int n) { return n; }
    public int ReadBoard(int n) { return n; }
    public int ReadCurve(int n) { return n; }
    public int ReadMedian(int n) { return n; }
    public int ReadBattery(int n) { return n; }
    public int ReadClock(int n) { return n; }
    private int gauge;
    private int level;
    private int tide;
    private int float;
    private int wave;
    private int marsh;
    private int station;
    private int frame;
    private int link;
    public int GaugeNow { get; set; }
    public int LevelNow { get; set; }
    public int TideNow { get; set; }
    public int FloatNow { get; set; }
    public int WaveNow { get; set; }
    public int MarshNow { get; set; }
    public int StationNow { get; set; }
    public int FrameNow { get; set; }
}
public class FramePart
{
    public int ReadGauge(int n) { return n; }
    public int ReadLevel(int n) { return n; }
    public int ReadTide(int n) { return n; }
    public int ReadFloat(int n) { return n; }
    public int ReadWave(int n) { return n; }
    public int ReadMarsh(int n) { return n; }
    public int ReadStation(int n) { return n; }
    public int ReadFrame(int n) { return n; }
    public int ReadLink(int n) { return n; }
    public int ReadBoard(int n) { return n; }
    public int ReadCurve(int n) { return n; }
    public int ReadMedian(int n) { return n; }
    public int ReadBattery(int n) { return n; }
    public int ReadClock(int n) { return n; }
    private int gauge;
    private int level;
    private int tide;
    private int float;
    private int wave;
    private int marsh;
    private int station;
    private int frame;
    private int link;
    public int GaugeNow { get; set; }
    public int LevelNow { get; set; }
    public int TideNow { get; set; }
    public int FloatNow { get; set; }
    public int WaveNow { get; set; }
    public int MarshNow { get; set; }
    public int StationNow { get; set; }
    public int FrameNow { get; set; }
}
