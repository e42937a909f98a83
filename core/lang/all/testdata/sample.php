<?php
/* Marshgauge, the board's pages. Copyright nobody. */
declare(strict_types=1);

namespace Marsh\Board;

use Marsh\Link;
use Marsh\Text as Words, Marsh\Clock;
use function Marsh\settle;
use const Marsh\LIMIT;
use Marsh\Parts\{Gauge, Station as Post};
require_once __DIR__ . '/setup.php';
include 'menu.php';

const SAMPLES = 9;
define('WINDOW', 3);
$counter = 0;
$double = function (int $n) use ($counter) { return $n * 2; };
$triple = fn(int $n): int => $n * 3;

/** Reads a gauge. It sleeps in between. */
#[Entity]
abstract class Reader extends Base implements Readable, \Countable
{
    use Logs, Sleeps;
    const LIMIT = 3, OTHER = 4;
    private const int HIDDEN = 5;
    public static ?int $made = 0;
    protected $level, $unit = "mm";
    var $old;
    public readonly string $name;
    private array $window = [1, 2];
    public function __construct(private int $id, protected readonly ?string $place = null, int $plain = 1)
    {
        $this->level = "gauge {$id} of $place " . 'the marsh';
    }
    abstract protected function read(int $at): ?int;
    final public static function make(string ...$names): static
    {
        foreach ($names as $i => $name) { if ($i > 2 && $name) { continue; } elseif ($i) { break; } else { while (false) { } } }
        $word = match (true) { $i > 1 => 'many', default => 'one' };
        try { settle(1); } catch (\Exception | \Error $e) { } finally { }
        return $word ? new static(1) : new class { function inner() { } };
    }
    function plain(&$reference, callable $f = null) { static $kept; return $f ?? 1; }
    private function hidden() { switch ($this->level) { case 1: break; default: } }
    public function __destruct() { }
}
interface Readable extends Named { const UNIT = 'mm'; public function read(int $at): ?int; }
trait Logs { private $lines; protected static int $count = 0; function log(string $line): void { } abstract function where(); }
enum Sea: string { case Calm = 'c'; case Rough = 'r'; }
enum Plain { case One; case Two; }
final class Closed { }
function top_level(int $n, string ...$rest): void { function nested() { } }
function &by_reference() { }
class GaugePart
{
    private int $gauge = 0;
    private int $level = 0;
    private int $tide = 0;
    private int $float = 0;
    private int $wave = 0;
    private int $marsh = 0;
    private int $station = 0;
    private int $frame = 0;
    private int $link = 0;
    private int $board = 0;
    public function readGauge(int $n): int { return $n; }
    public function readLevel(int $n): int { return $n; }
    public function readTide(int $n): int { return $n; }
    public function readFloat(int $n): int { return $n; }
    public function readWave(int $n): int { return $n; }
    public function readMarsh(int $n): int { return $n; }
    public function readStation(int $n): int { return $n; }
    public function readFrame(int $n): int { return $n; }
    public function readLink(int $n): int { return $n; }
    public function readBoard(int $n): int { return $n; }
    public function readCurve(int $n): int { return $n; }
    public function readMedian(int $n): int { return $n; }
    public function readBattery(int $n): int { return $n; }
    public function readClock(int $n): int { return $n; }
    const GAUGE = 1;
    const LEVEL = 1;
    const TIDE = 1;
    const FLOAT = 1;
    const WAVE = 1;
    const MARSH = 1;
    const STATION = 1;
    const FRAME = 1;
}
class LevelPart
{
    private int $gauge = 0;
    private int $level = 0;
    private int $tide = 0;
    private int $float = 0;
    private int $wave = 0;
    private int $marsh = 0;
    private int $station = 0;
    private int $frame = 0;
    private int $link = 0;
    private int $board = 0;
    public function readGauge(int $n): int { return $n; }
    public function readLevel(int $n): int { return $n; }
    public function readTide(int $n): int { return $n; }
    public function readFloat(int $n): int { return $n; }
    public function readWave(int $n): int { return $n; }
    public function readMarsh(int $n): int { return $n; }
    public function readStation(int $n): int { return $n; }
    public function readFrame(int $n): int { return $n; }
    public function readLink(int $n): int { return $n; }
    public function readBoard(int $n): int { return $n; }
    public function readCurve(int $n): int { return $n; }
    public function readMedian(int $n): int { return $n; }
    public function readBattery(int $n): int { return $n; }
    public function readClock(int $n): int { return $n; }
    const GAUGE = 1;
    const LEVEL = 1;
    const TIDE = 1;
    const FLOAT = 1;
    const WAVE = 1;
    const MARSH = 1;
    const STATION = 1;
    const FRAME = 1;
}
class TidePart
{
    private int $gauge = 0;
    private int $level = 0;
    private int $tide = 0;
    private int $float = 0;
    private int $wave = 0;
    private int $marsh = 0;
    private int $station = 0;
    private int $frame = 0;
    private int $link = 0;
    private int $board = 0;
    public function readGauge(int $n): int { return $n; }
    public function readLevel(int $n): int { return $n; }
    public function readTide(int $n): int { return $n; }
    public function readFloat(int $n): int { return $n; }
    public function readWave(int $n): int { return $n; }
    public function readMarsh(int $n): int { return $n; }
    public function readStation(int $n): int { return $n; }
    public function readFrame(int $n): int { return $n; }
    public function readLink(int $n): int { return $n; }
    public function readBoard(int $n): int { return $n; }
    public function readCurve(int $n): int { return $n; }
    public function readMedian(int $n): int { return $n; }
    public function readBattery(int $n): int { return $n; }
    public function readClock(int $n): int { return $n; }
    const GAUGE = 1;
    const LEVEL = 1;
    const TIDE = 1;
    const FLOAT = 1;
    const WAVE = 1;
    const MARSH = 1;
    const STATION = 1;
    const FRAME = 1;
}
class FloatPart
{
    private int $gauge = 0;
    private int $level = 0;
    private int $tide = 0;
    private int $float = 0;
    private int $wave = 0;
    private int $marsh = 0;
    private int $station = 0;
    private int $frame = 0;
    private int $link = 0;
    private int $board = 0;
    public function readGauge(int $n): int { return $n; }
    public function readLevel(int $n): int { return $n; }
    public function readTide(int $n): int { return $n; }
    public function readFloat(int $n): int { return $n; }
    public function readWave(int $n): int { return $n; }
    public function readMarsh(int $n): int { return $n; }
    public function readStation(int $n): int { return $n; }
    public function readFrame(int $n): int { return $n; }
    public function readLink(int $n): int { return $n; }
    public function readBoard(int $n): int { return $n; }
    public function readCurve(int $n): int { return $n; }
    public function readMedian(int $n): int { return $n; }
    public function readBattery(int $n): int { return $n; }
    public function readClock(int $n): int { return $n; }
    const GAUGE = 1;
    const LEVEL = 1;
    const TIDE = 1;
    const FLOAT = 1;
    const WAVE = 1;
    const MARSH = 1;
    const STATION = 1;
    const FRAME = 1;
}
class WavePart
{
    private int $gauge = 0;
    private int $level = 0;
    private int $tide = 0;
    private int $float = 0;
    private int $wave = 0;
    private int $marsh = 0;
    private int $station = 0;
    private int $frame = 0;
    private int $link = 0;
    private int $board = 0;
    public function readGauge(int $n): int { return $n; }
    public function readLevel(int $n): int { return $n; }
    public function readTide(int $n): int { return $n; }
    public function readFloat(int $n): int { return $n; }
    public function readWave(int $n): int { return $n; }
    public function readMarsh(int $n): int { return $n; }
    public function readStation(int $n): int { return $n; }
    public function readFrame(int $n): int { return $n; }
    public function readLink(int $n): int { return $n; }
    public function readBoard(int $n): int { return $n; }
    public function readCurve(int $n): int { return $n; }
    public function readMedian(int $n): int { return $n; }
    public function readBattery(int $n): int { return $n; }
    public function readClock(int $n): int { return $n; }
    const GAUGE = 1;
    const LEVEL = 1;
    const TIDE = 1;
    const FLOAT = 1;
    const WAVE = 1;
    const MARSH = 1;
    const STATION = 1;
    const FRAME = 1;
}
class MarshPart
{
    private int $gauge = 0;
    private int $level = 0;
    private int $tide = 0;
    private int $float = 0;
    private int $wave = 0;
    private int $marsh = 0;
    private int $station = 0;
    private int $frame = 0;
    private int $link = 0;
    private int $board = 0;
    public function readGauge(int $n): int { return $n; }
    public function readLevel(int $n): int { return $n; }
    public function readTide(int $n): int { return $n; }
    public function readFloat(int $n): int { return $n; }
    public function readWave(int $n): int { return $n; }
    public function readMarsh(int $n): int { return $n; }
    public function readStation(int $n): int { return $n; }
    public function readFrame(int $n): int { return $n; }
    public function readLink(int $n): int { return $n; }
    public function readBoard(int $n): int { return $n; }
    public function readCurve(int $n): int { return $n; }
    public function readMedian(int $n): int { return $n; }
    public function readBattery(int $n): int { return $n; }
    public function readClock(int $n): int { return $n; }
    const GAUGE = 1;
    const LEVEL = 1;
    const TIDE = 1;
    const FLOAT = 1;
    const WAVE = 1;
    const MARSH = 1;
    const STATION = 1;
    const FRAME = 1;
}
class StationPart
{
    private int $gauge = 0;
    private int $level = 0;
    private int $tide = 0;
    private int $float = 0;
    private int $wave = 0;
    private int $marsh = 0;
    private int $station = 0;
    private int $frame = 0;
    private int $link = 0;
    private int $board = 0;
    public function readGauge(int $n): int { return $n; }
    public function readLevel(int $n): int { return $n; }
    public function readTide(int $n): int { return $n; }
    public function readFloat(int $n): int { return $n; }
    public function readWave(int $n): int { return $n; }
    public function readMarsh(int $n): int { return $n; }
    public function readStation(int $n): int { return $n; }
    public function readFrame(int $n): int { return $n; }
    public function readLink(int $n): int { return $n; }
    public function readBoard(int $n): int { return $n; }
    public function readCurve(int $n): int { return $n; }
    public function readMedian(int $n): int { return $n; }
    public function readBattery(int $n): int { return $n; }
    public function readClock(int $n): int { return $n; }
    const GAUGE = 1;
    const LEVEL = 1;
    const TIDE = 1;
    const FLOAT = 1;
    const WAVE = 1;
    const MARSH = 1;
    const STATION = 1;
    const FRAME = 1;
}
class FramePart
{
    private int $gauge = 0;
    private int $level = 0;
    private int $tide = 0;
    private int $float = 0;
    private int $wave = 0;
    private int $marsh = 0;
    private int $station = 0;
    private int $frame = 0;
    private int $link = 0;
    private int $board = 0;
    public function readGauge(int $n): int { return $n; }
    public function readLevel(int $n): int { return $n; }
    public function readTide(int $n): int { return $n; }
    public function readFloat(int $n): int { return $n; }
    public function readWave(int $n): int { return $n; }
    public function readMarsh(int $n): int { return $n; }
    public function readStation(int $n): int { return $n; }
    public function readFrame(int $n): int { return $n; }
    public function readLink(int $n): int { return $n; }
    public function readBoard(int $n): int { return $n; }
    public function readCurve(int $n): int { return $n; }
    public function readMedian(int $n): int { return $n; }
    public function readBattery(int $n): int { return $n; }
    public function readClock(int $n): int { return $n; }
    const GAUGE = 1;
    const LEVEL = 1;
    const TIDE = 1;
    const FLOAT = 1;
    const WAVE = 1;
    const MARSH = 1;
    const STATION = 1;
    const FRAME = 1;
}
?>
<p>A page <?= $counter const PATTERN = '/^\d+\b/';
const FOLDER = 'C:\new\\old \'s';
const SPOKEN = "tab\there \"quoted\"";
const NOTHING_ESCAPED = <<<'END'
a \n stays, and $this too
END;
const GREETING = <<<END
here \t it goes
END;
?></p>
