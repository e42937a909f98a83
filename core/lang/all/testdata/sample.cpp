// Marshgauge's gauges in C++.
#pragma once
#include <vector>
#include "gauge.h"
#define CHECK(x) do { if (!(x)) fail(#x); } while (0)

using namespace std::literals;
using std::string;
using Level = int;
template <typename T> using List = std::vector<T>;
typedef unsigned char byte;
static constexpr int kSamples = 9;
inline constexpr double kPi{3.14};
const char *const kName = u8"salt" "ern";
auto raw = R"x(a "raw" one)x";
thread_local int per_thread = 0;
extern "C" { int c_function(int); }
extern "C" void c_other(void) {}

namespace marsh {
namespace { int hidden; void helper() {} }
namespace inner::deep { struct Far { int x; }; }
inline namespace v1 { class Versioned; }

enum Plain { kOne, kTwo = 2 };
enum class Scoped : unsigned char { kLow, kHigh = 7 };
struct Point { int x = 0; int y{}; Point operator+(const Point &o) const { return {}; } };
union Any { int i; float f; };

/// Reads a gauge. It never blocks.
class Gauge : public Base, private Mixin<Gauge> {
  int level_, *pointer_ = nullptr, array_[3];
public:
  static const int kLimit = 3;
  static inline int made = 0;
  Gauge() = default;
  explicit Gauge(int level) : level_(level), pointer_(nullptr) {}
  Gauge(const Gauge &) = delete;
  Gauge(Gauge &&) noexcept;
  virtual ~Gauge();
  Gauge &operator=(const Gauge &other);
  bool operator==(const Gauge &) const = default;
  int operator()(int n) { return n; }
  int &operator[](std::size_t i);
  operator bool() const { return true; }
  explicit operator double() const;
  Gauge &operator++();
  friend std::ostream &operator<<(std::ostream &, const Gauge &);
  friend class Station;
  virtual int read() const = 0;
  virtual void settle(int ms) override final;
  static Gauge *make(const std::string &name) { return nullptr; }
  template <typename T, int N = 1> T convert(T in) const;
  [[nodiscard]] auto trailing() -> std::vector<int>;
  int (*callback)(int);
  void (Gauge::*member)(int);
  enum Mode { kOff, kOn };
  struct Nested { int depth; class Deeper { int z; }; };
  using Alias = std::vector<int>;
  typedef int OldAlias;
protected:
  std::vector<int> window_{1, 2};
  mutable int cache_ : 4;
private:
  union { int u1; float u2; };
  void hidden() const;
};
template <> class Holder<int> { int v; };
template <typename T> struct Holder { T value; T get() { return value; } };
template <typename T> concept Readable = requires(T t) { t.read(); };
template <Readable T> void use(T &t);
template <typename... Ts> int count(Ts... ts) { return sizeof...(ts); }
int Gauge::read() const { return level_; }
Gauge::Gauge(Gauge &&) noexcept {}
Gauge::~Gauge() {}
Gauge &Gauge::operator=(const Gauge &o) { if (&o != this && level_ > 0) { for (auto &x : window_) { x ? 1 : 2; } } else if (level_) { try { throw 1; } catch (int e) {} } return *this; }
template <typename T, int N> T Gauge::convert(T in) const { return in; }
auto lambda = [](int x) { int inside = x; return inside; };
int &reference = hidden;
Point origin;
static int file_local(int n) noexcept;
constexpr int square(int n) { return n * n; }
auto deduced() { return 1; }
void defaults(int a = 1, string b = "x"s);
}  // namespace marsh
int main(int argc, char **argv) { return 0; }
int readGauge(int n) { return n + 0; }
int readLevel(int n) { return n + 1; }
int readTide(int n) { return n + 2; }
int readFloat(int n) { return n + 3; }
int readWave(int n) { return n + 4; }
int readMarsh(int n) { return n + 5; }
int readStation(int n) { return n + 6; }
int readFrame(int n) { return n + 7; }
int readLink(int n) { return n + 8; }
int readBoard(int n) { return n + 9; }
int readCurve(int n) { return n + 10; }
int readMedian(int n) { return n + 11; }
int readBattery(int n) { return n + 12; }
int readClock(int n) { return n + 13; }
int readPort(int n) { return n + 14; }
int readBuffer(int n) { return n + 15; }
int readSensor(int n) { return n + 16; }
int readWindow(int n) { return n + 17; }
int readAlarm(int n) { return n + 18; }
int readDatum(int n) { return n + 19; }
int readHarbour(int n) { return n + 20; }
int readJetty(int n) { return n + 21; }
int readBuoy(int n) { return n + 22; }
int readAnchor(int n) { return n + 23; }
int readChannel(int n) { return n + 24; }
int readEbb(int n) { return n + 25; }
int readFlood(int n) { return n + 26; }
int readSpring(int n) { return n + 27; }
int readNeap(int n) { return n + 28; }
int readSwell(int n) { return n + 29; }
int writeGauge(int n) { return n + 30; }
int writeLevel(int n) { return n + 31; }
int writeTide(int n) { return n + 32; }
int writeFloat(int n) { return n + 33; }
int writeWave(int n) { return n + 34; }
int writeMarsh(int n) { return n + 35; }
int writeStation(int n) { return n + 36; }
int writeFrame(int n) { return n + 37; }
int writeLink(int n) { return n + 38; }
int writeBoard(int n) { return n + 39; }
int writeCurve(int n) { return n + 40; }
int writeMedian(int n) { return n + 41; }
int writeBattery(int n) { return n + 42; }
int writeClock(int n) { return n + 43; }
int writePort(int n) { return n + 44; }
int writeBuffer(int n) { return n + 45; }
int writeSensor(int n) { return n + 46; }
int writeWindow(int n) { return n + 47; }
int writeAlarm(int n) { return n + 48; }
int writeDatum(int n) { return n + 49; }
int writeHarbour(int n) { return n + 50; }
int writeJetty(int n) { return n + 51; }
int writeBuoy(int n) { return n + 52; }
int writeAnchor(int n) { return n + 53; }
int writeChannel(int n) { return n + 54; }
int writeEbb(int n) { return n + 55; }
int writeFlood(int n) { return n + 56; }
int writeSpring(int n) { return n + 57; }
int writeNeap(int n) { return n + 58; }
int writeSwell(int n) { return n + 59; }
int openGauge(int n) { return n + 60; }
int openLevel(int n) { return n + 61; }
int openTide(int n) { return n + 62; }
int openFloat(int n) { return n + 63; }
int openWave(int n) { return n + 64; }
int openMarsh(int n) { return n + 65; }
int openStation(int n) { return n + 66; }
int openFrame(int n) { return n + 67; }
int openLink(int n) { return n + 68; }
int openBoard(int n) { return n + 69; }
int openCurve(int n) { return n + 70; }
int openMedian(int n) { return n + 71; }
int openBattery(int n) { return n + 72; }
int openClock(int n) { return n + 73; }
int openPort(int n) { return n + 74; }
int openBuffer(int n) { return n + 75; }
int openSensor(int n) { return n + 76; }
int openWindow(int n) { return n + 77; }
int openAlarm(int n) { return n + 78; }
int openDatum(int n) { return n + 79; }
int openHarbour(int n) { return n + 80; }
int openJetty(int n) { return n + 81; }
int openBuoy(int n) { return n + 82; }
int openAnchor(int n) { return n + 83; }
int openChannel(int n) { return n + 84; }
int openEbb(int n) { return n + 85; }
int openFlood(int n) { return n + 86; }
int openSpring(int n) { return n + 87; }
int openNeap(int n) { return n + 88; }
int openSwell(int n) { return n + 89; }
class GaugePart {
public:
  int readGauge() const;
  int readLevel() const;
  int readTide() const;
  int readFloat() const;
  int readWave() const;
  int readMarsh() const;
  int readStation() const;
  int readFrame() const;
  int readLink() const;
private:
  int gauge_;
  int level_;
  int tide_;
  int float_;
  int wave_;
  int marsh_;
  int station_;
  int frame_;
  int link_;
};
class LevelPart {
public:
  int readGauge() const;
  int readLevel() const;
  int readTide() const;
  int readFloat() const;
  int readWave() const;
  int readMarsh() const;
  int readStation() const;
  int readFrame() const;
  int readLink() const;
private:
  int gauge_;
  int level_;
  int tide_;
  int float_;
  int wave_;
  int marsh_;
  int station_;
  int frame_;
  int link_;
};
class TidePart {
public:
  int readGauge() const;
  int readLevel() const;
  int readTide() const;
  int readFloat() const;
  int readWave() const;
  int readMarsh() const;
  int readStation() const;
  int readFrame() const;
  int readLink() const;
private:
  int gauge_;
  int level_;
  int tide_;
  int float_;
  int wave_;
  int marsh_;
  int station_;
  int frame_;
  int link_;
};
class FloatPart {
public:
  int readGauge() const;
  int readLevel() const;
  int readTide() const;
  int readFloat() const;
  int readWave() const;
  int readMarsh() const;
  int readStation() const;
  int readFrame() const;
  int readLink() const;
private:
  int gauge_;
  int level_;
  int tide_;
  int float_;
  int wave_;
  int marsh_;
  int station_;
  int frame_;
  int link_;
};
class WavePart {
public:
  int readGauge() const;
  int readLevel() const;
  int readTide() const;
  int readFloat() const;
  int readWave() const;
  int readMarsh() const;
  int readStation() const;
  int readFrame() const;
  int readLink() const;
private:
  int gauge_;
  int level_;
  int tide_;
  int float_;
  int wave_;
  int marsh_;
  int station_;
  int frame_;
  int link_;
};
class MarshPart {
public:
  int readGauge() const;
  int readLevel() const;
  int readTide() const;
  int readFloat() const;
  int readWave() const;
  int readMarsh() const;
  int readStation() const;
  int readFrame() const;
  int readLink() const;
private:
  int gauge_;
  int level_;
  int tide_;
  int float_;
  int wave_;
  int marsh_;
  int station_;
  int frame_;
  int link_;
};
class StationPart {
public:
  int readGauge() const;
  int readLevel() const;
  int readTide() const;
  int readFloat() const;
  int readWave() const;
  int readMarsh() const;
  int readStation() const;
  int readFrame() const;
  int readLink() const;
private:
  int gauge_;
  int level_;
  int tide_;
  int float_;
  int wave_;
  int marsh_;
  int station_;
  int frame_;
  int link_;
};
