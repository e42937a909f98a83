/*
 * Marshgauge: how high the water stands.
 * Licence: for tests alone.
 */
package marsh.gauge

import scala.collection.mutable
import scala.collection.mutable.{Buffer, Map => Table, ListBuffer as Lines}
import scala.concurrent._
import scala.util.{Failure, Success, Try}
import java.time.*
import java.io.{File => _, IOException}
import marsh.units.Metres.given

/** Levels that are known by name. TODO: one for the weir. */
object Levels {
  /** Where the chart begins. */
  val Datum = 0.0
  val Mean: Double = 2.4
  final val Spring = 4.8
  private val neap = 1.9
  protected var last: Option[Double] = None
  lazy val Table: Map[String, Double] = Map("mean" -> Mean, "spring" -> Spring)
  implicit val ordering: Ordering[Level] = Ordering.by(_.metres)
  var (low, high) = (0.0, 0.0)
  val Some(first) = last
  val a, b, c = 1
  type Metres = Double
  private type Pairs[A] = List[(A, A)]
  type Reader[-A, +B] = A => B

  /** What stands at a station, or the mean. */
  def of(name: String): Double = Table.getOrElse(name, Mean)
  def apply(name: String): Level = new Level(of(name))
  def unapply(level: Level): Option[Double] = Some(level.metres)
  private def bound(x: Double): Double = if (x < Datum) Datum else if (x > Spring) Spring else x
  protected[gauge] def reset(): Unit = { last = None }
  private[this] def none = None
  def update(name: String, to: Double): Unit = last = Some(to)
  def +(other: Double): Double = Mean + other
  def -(other: Double): Double = Mean - other
  def unary_! : Boolean = Mean == 0
  def `type`: String = "levels"
  def twice(x: => Double): Double = x + x
  def all(names: String*): Seq[Double] = names.map(of)
  def many(a: Int)(b: Int)(implicit order: Ordering[Int]): Int = order.max(a, b)
  def bounded[A <: Level](x: A): A = x
  def viewed[A: Ordering, B >: Null](x: A, y: B = null): (A, B) = (x, y)

  object Names {
    val Weir = "weir"
    val Lock = "lock"
    object Old { val Mill = "mill"; def count: Int = 1 }
  }
}

/** One level. */
case class Level(metres: Double, at: Long = 0L) extends Ordered[Level] {
  def compare(that: Level): Int = metres.compare(that.metres)
  def above(that: Level): Boolean = this > that
  override def toString: String = s"$metres m at ${at / 1000} s"
  def feet: Double = metres / Level.Foot
}

object Level {
  private val Foot = 0.3048
  val Zero: Level = Level(0)
  def ofFeet(feet: Double): Level = Level(feet * Foot)
  implicit class Measured(val metres: Double) extends AnyVal {
    def m: Level = Level(metres)
    def cm: Level = Level(metres / 100)
  }
  implicit def fromInt(x: Int): Level = Level(x)
}

sealed trait State
case object Quiet extends State
case object Rising extends State
case class Alarmed(since: Long, private val by: String, var seen: Boolean) extends State
final case class Broken[+A](reason: A) extends State

/** What can be read. */
trait Source {
  /** Its name. */
  def name: String
  def level(): Level
  def close(): Unit = ()
  val interval: Int
  var enabled: Boolean
  type Raw
  protected def raw: Raw
}

trait Logged { self: Source =>
  private val lines = mutable.Buffer[String]()
  def log(line: String): Unit = lines += s"$name: $line"
  def tail(n: Int = 10): Seq[String] = lines.takeRight(n).toSeq
}

trait Timed[T] extends Source with Logged {
  def now: T
  def since(then: T): Int
}

/** A sensor on a line.
  *
  * @param line which one
  */
@deprecated("use Probe", "2.0")
abstract class Sensor(val line: Int, name0: String, protected var offset: Double = 0) extends Source with Logged {
  def this(line: Int) = this(line, s"sensor $line")
  def this() = this(0)
  override val name: String = name0
  val interval = 30
  var enabled = true
  private var reads = 0
  private[gauge] var errors: Int = 0
  protected val limit: Double
  type Raw = Int
  def read(): Int
  def level(): Level = {
    def once(): Int = { reads += 1; read() }
    val raw = once()
    if (raw < 0 && enabled || raw > 4095) {
      errors += 1
      Level.Zero
    } else Level(raw * 0.01 + offset)
  }
  def calibrate(known: Level*): Unit =
    for (k <- known if enabled; d = k.metres - level().metres) offset += d / known.size
  class Filter(size: Int) {
    private val window = new Array[Double](size)
    var at = 0
    def push(x: Double): Double = { window(at) = x; at = (at + 1) % size; window.sum / size }
    object Median { def of(xs: Seq[Double]): Double = xs.sorted.apply(xs.size / 2) }
  }
  protected def filter: Filter = new Filter(5)
  @volatile private var cached: Level = _
  @inline final def quick: Level = cached
}

class Float(line: Int) extends Sensor(line) {
  protected val limit = 6.0
  protected def raw = read()
  def read(): Int = ???
  override def close(): Unit = try super.close() catch {
    case e: IOException if e.getMessage != null => errors += 1
    case _: RuntimeException => ()
  } finally enabled = false
}

class Pressure private (line: Int, val depth: Double) extends Sensor(line, "pressure") with Timed[Long] {
  protected val limit = 10.0
  protected def raw: Int = 0
  def read(): Int = (depth * 100).toInt
  def now: Long = System.currentTimeMillis
  def since(then: Long): Int = ((now - then) / 1000).toInt
}

object Pressure {
  def at(depth: Double): Pressure = new Pressure(1, depth)
  val none: Source = new Source {
    def name = "none"
    def level() = Level.Zero
    val interval = 0
    var enabled = false
    type Raw = Unit
    protected def raw: Unit = ()
  }
}

/** Runs stations. */
object Main extends App {
  val stations = List("weir", "lock")
  stations.foreach(println)
}

object Tool {
  def main(args: Array[String]): Unit = {
    val command = args.headOption
    command match {
      case Some("list") => list()
      case Some(other) => println("unknown: " + other + ", try " + "list")
      case None => usage
    }
  }
  private def list(): Unit = Levels.Table.keys.foreach(println)
  private def usage: Unit = println("""usage:
    tool list""")
}

class Store[K, +V](path: String)(implicit ec: ExecutionContext) {
  private[this] val kept = mutable.HashMap.empty[K, Any]
  def get[W >: V](key: K): Option[W] = kept.get(key).map(_.asInstanceOf[W])
  def put(key: K, value: Any): this.type = { kept(key) = value; this }
  def size: Int = kept.size
  def isEmpty = size == 0
  def clear(): Unit = kept.clear()
  def each(f: (K, Any) => Unit): Unit = kept foreach { case (k, v) => f(k, v) }
  def load(): Future[Int] = Future {
    var n = 0
    while (n < 10) { n += 1 }
    do n -= 1 while (n > 5)
    n
  }
  val key: K => Int = k => k.hashCode
  val combine = (a: Int, b: Int) => a + b
  private val partial: PartialFunction[Int, String] = { case 1 => "one" }
}

object Store {
  val Default = "store.db"
  val Url = "file:" + "//" + Default
  val Limit = 1_000_000
  val Mask = 0xffL
  val Letter = 'x'
  val Name = 'symbol
  val Quote = s"""a "quoted" ${Default} name"""
  val Format = f"$Limit%d"
  def open(): Store[String, Int] = new Store[String, Int](Default)(ExecutionContext.global)
}

package object units {
  type Centimetres = Int
  val PerMetre = 100
  def toMetres(x: Centimetres): Double = x.toDouble / PerMetre
}

package inner {
  class Hidden { def shown: Int = 1; val also = 2 }
  private[inner] object Helper { def help(): Unit = () }
  trait Deep { def depth: Int }
  package deeper {
    class Deepest { def deepest: Int = 3 }
  }
}

/** Which way the water goes. */
enum Tide(val sign: Int) derives CanEqual {
  /** Towards the land. */
  case Flood extends Tide(1)
  case Ebb extends Tide(-1)
  case Slack, Unknown extends Tide(0)
  def turned: Tide = if this == Flood then Ebb else Flood
  private def steep = sign * 2
}

enum Reading[+A]:
  case Good(value: A, at: Long)
  case Bad(reason: String)
  case Missing

  def get: Option[A] = this match
    case Good(value, _) if value != null => Some(value)
    case Good(_, _) | Bad(_) | Missing => None

object Reading:
  val Empty: Reading[Nothing] = Missing
  def of[A](x: A): Reading[A] = Good(x, 0L)

trait Shape[T]:
  def area(x: T): Double
  extension (x: T) def half: Double = area(x) / 2

/** How basins are compared. */
given byDepth: Ordering[Basin] with
  def compare(a: Basin, b: Basin): Int = a.depth.compare(b.depth)
  val reversed = false

given Shape[Basin] with
  def area(x: Basin): Double = x.width * x.length

given [A](using inner: Shape[A]): Shape[List[A]] with
  def area(xs: List[A]): Double = xs.map(inner.area).sum

given fallback: ExecutionContext = ExecutionContext.global

case class Basin(depth: Double, width: Double, length: Double)

extension (b: Basin)
  def volume: Double = b.depth * b.width * b.length
  def deeper(by: Double): Basin = b.copy(depth = b.depth + by)

extension [A](xs: List[A])(using order: Ordering[A])
  def highest: A = xs.max
  private def lowest: A = xs.min

opaque type Seconds = Long
opaque type Millis <: Long = Long
type Element[X] = X match
  case String => Char
  case List[t] => t
type Id = [X] =>> X
type Both = Source & Logged
type Either2 = Int | String

inline def checked(inline on: Boolean)(x: => Unit): Unit = inline if on then x
transparent inline def pick(on: Boolean): Any = if on then 1 else "one"
infix def atop(a: Level, b: Level): Level = if a.above(b) then a else b
def ask(using source: Source): Level = source.level()
def eventually(f: ExecutionContext ?=> Int): Int = f(using fallback)
private def hidden(): Unit = ()
val top = 1
var moving: Tide = Tide.Slack
private val (north, south) = (1, 2)
lazy val late: Int = top + 1
export Levels.{Mean, Spring as High}

/** Starts everything. */
@main def serve(port: Int, names: String*): Unit =
  val server = Server(port)
  for name <- names do server.add(name)
  while server.open && port > 0 do
    server.step()
  end while
end serve

open class Server(port: Int):
  private var stations = List.empty[String]
  protected var steps = 0
  def add(name: String): Unit = stations = name :: stations
  def open: Boolean = steps < 10
  def step(): Unit =
    steps += 1
    try
      stations.foreach { name =>
        println(s"step ${steps + 1} of $name")
      }
    catch
      case e: IOException => fail(e)
  def fail(e: Exception): Nothing = throw e
  private class Client(val host: String):
    def call(): String = host
    def retry(times: Int): Unit = if times > 0 then { call(); retry(times - 1) }
  object Client:
    val Local = Client("127.0.0.1")
end Server

final class Queue[A] private[gauge] (private val items: Vector[A]):
  def this() = this(Vector.empty)
  def +:(x: A): Queue[A] = new Queue(x +: items)
  def :+(x: A): Queue[A] = new Queue(items :+ x)
  def head: Option[A] = items.headOption
  def drop: Queue[A] = new Queue(items.drop(1))
  def length: Int = items.length
  def map[B](f: A => B): Queue[B] = new Queue(items.map(f))
  def filter(f: A => Boolean): Queue[A] = new Queue(items.filter(f))
  def forall(f: A => Boolean): Boolean = items.forall(f)
  def exists(f: A => Boolean): Boolean = !forall(x => !f(x))
  def withFilter(f: A => Boolean): Queue[A] = filter(f)
  def flatMap[B](f: A => Queue[B]): Queue[B] =
    def go(left: Vector[A], done: Vector[B]): Vector[B] = left match
      case Vector() => done
      case x +: rest => go(rest, done ++ f(x).items)
    Queue(go(items, Vector.empty))

object Queue:
  def apply[A](items: Vector[A]): Queue[A] = new Queue(items)
  def of[A](items: A*): Queue[A] = new Queue(items.toVector)
  def unapplySeq[A](q: Queue[A]): Option[Seq[A]] = Some(q.items)

trait Clock(val zone: String):
  def now(): Long
  def later(by: Seconds): Long = now() + by
  protected def tick(): Unit

class Fixed(at: Long) extends Clock("UTC"), Serializable:
  def now(): Long = at
  protected def tick(): Unit = ()

class Station(val id: Int, var label: String)(using clock: Clock):
  private var history = Queue[Level]()
  val opened: Long = clock.now()
  def note(level: Level): Unit = history = history :+ level
  def peak: Option[Level] = history.head
  def quiet(than: Level): Boolean = history.forall(l => !l.above(than) || l == than)
  def rename(to: String): this.type = { label = to; this }
  override def equals(that: Any): Boolean = that match
    case s: Station => s.id == id && s.label == label
    case _ => false
  override def hashCode: Int = id

trait Host:
  self: Clock =>
  type Key <: AnyVal
  type Shown = { def show: String }
  type Both[A] = Map[A, A] { type Held; val size: Int }
  def shown(x: { def show: String }): String
  private[this] lazy val once: Int = 1
  protected val (left, right: Int) = (1, 2)

class Net @Inject() (val first: Host, private[gauge] val second: Host)(implicit val zone: String = "UTC") extends Clock(zone) {
  import Net.{Retry, Wait => Pause}
  override final def now(): Long = first.hashCode
  protected def tick(): Unit = synchronized { second.shown(null) }
  @tailrec private def loop(n: Int, acc: Int = 0): Int = if (n == 0) acc else if (n < 0) -1 else loop(n - 1, acc + n)
  def path = "/stations/" + zone + "/" + "levels" /* as served */ + ".json"
  def each(xs: Seq[Int]): Seq[Int] = for { x <- xs; if x > 0; y = x * 2 } yield y
  def old: Any = new AnyRef with Serializable { def inside: Int = 1 }
  def guard(x: Any): Int = x match {
    case n: Int if n > 0 && n < 10 => n
    case (p: Int, q: Int) => p + q
    case s @ ("a" | "b") => s.toString.length
    case _ => throw new IllegalStateException(s"what is $x?")
  }
  def run(): Unit = {
    val local = 1
    class Inner(val x: Int) { def y: Int = x + local }
    object Single { def z: Int = 2 }
    trait Part
    type Alias = Int
    println(new Inner(1).y + Single.z)
  }
  val handler: String => Unit = {
    case "stop" => ()
    case other => println(other)
  }
}

object Net {
  sealed abstract class Policy(val name: String)
  case object Retry extends Policy("retry")
  case object Wait extends Policy("wait")
  final val Longest: Int = 30
  private var count: Int = _
  def main(names: List[String]): Unit = ()
  def next: Int = { count += 1; count }
}
// FIXME: the last line
