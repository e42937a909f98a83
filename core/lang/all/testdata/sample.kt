package marsh.gauges

import kotlin.math.max
import marsh.core.*
import marsh.text.Words as W

const val SAMPLES = 9
val names = listOf("salt" + "ern", "mere")
var counter: Int = 0
private val hidden by lazy { 1 }
val (first, second) = pair
internal val <T> List<T>.middle: T get() = this[size / 2]
typealias Level = Int

/**
 * Reads a gauge. It sleeps in between.
 * @param name as on the chart
 */
@Serializable
abstract class Gauge<T : Any>(
    val name: String,
    protected var level: Int = 1,
    plain: Int
) : Base(plain), Readable {
    companion object {
        const val LIMIT = 3
        fun make(name: String): Gauge<Int>? = null
    }

    lateinit var sensor: Sensor
    private val window = IntArray(SAMPLES)
    internal var ready: Boolean = false
        private set
    val twice: Int
        get() = level * 2
    var checked: Int = 0
        set(value) {
            if (value > 0 && ready) field = value
        }

    init {
        println("made $name and ${level + 1}")
    }

    constructor(name: String) : this(name, 1, 2) {
        ready = true
    }

    abstract fun read(): Int

    override fun settle(ms: Int) {
        for (i in 0 until ms) {
            if (i > 2) {
                println(i)
            } else if (i < 0) {
                return
            }
        }
        val inside = 1
        fun local(n: Int) = n + inside
        val word = when (ms) {
            0 -> "none"
            else -> "more"
        }
        try {
            local(1)
        } catch (e: Exception) {
            while (ready) break
        }
    }

    suspend fun <U> send(unit: U, vararg rest: Int): List<U> = listOf(unit)
    protected open fun own() {}
    private inline fun helper(block: (Int) -> Unit) = block(1)
    infix fun plusOne(n: Int) = n + 1
    operator fun plus(other: Gauge<T>): Gauge<T> = this

    inner class Inner {
        val deep = 1
    }

    class Nested
    object Single {
        val one = 1
    }
}

interface Readable {
    val id: String
    fun settle(ms: Int)
    fun name() = "x"
}

data class Reading(val at: Long, val level: Int)
sealed class Sea
object Calm : Sea()
enum class Mode(val code: Int) {
    OFF(0),
    ON(1),
    AUTO(2);

    fun next() = ON
}
annotation class Marked
@JvmInline
value class Id(val raw: Int)
fun String.words(): List<String> = split(" ")
private fun hiddenFunction() {}
fun main(args: Array<String>) {
    println("started")
}
class GaugePart {
    fun readGauge(n: Int): Int {
        return n
    }
    fun readLevel(n: Int): Int {
        return n
    }
    fun readTide(n: Int): Int {
        return n
    }
    fun readFloat(n: Int): Int {
        return n
    }
    fun readWave(n: Int): Int {
        return n
    }
    fun readMarsh(n: Int): Int {
        return n
    }
    fun readStation(n: Int): Int {
        return n
    }
    fun readFrame(n: Int): Int {
        return n
    }
    fun readLink(n: Int): Int {
        return n
    }
    fun readBoard(n: Int): Int {
        return n
    }
    fun readCurve(n: Int): Int {
        return n
    }
    fun readMedian(n: Int): Int {
        return n
    }
    fun readBattery(n: Int): Int {
        return n
    }
    fun readClock(n: Int): Int {
        return n
    }
    private var gauge = 0
    private var level = 0
    private var tide = 0
    private var float = 0
    private var wave = 0
    private var marsh = 0
    private var station = 0
    private var frame = 0
    private var link = 0
    val gaugeNow: Int = 1
    val levelNow: Int = 1
    val tideNow: Int = 1
    val floatNow: Int = 1
    val waveNow: Int = 1
    val marshNow: Int = 1
    val stationNow: Int = 1
    val frameNow: Int = 1
}
class LevelPart {
    fun readGauge(n: Int): Int {
        return n
    }
    fun readLevel(n: Int): Int {
        return n
    }
    fun readTide(n: Int): Int {
        return n
    }
    fun readFloat(n: Int): Int {
        return n
    }
    fun readWave(n: Int): Int {
        return n
    }
    fun readMarsh(n: Int): Int {
        return n
    }
    fun readStation(n: Int): Int {
        return n
    }
    fun readFrame(n: Int): Int {
        return n
    }
    fun readLink(n: Int): Int {
        return n
    }
    fun readBoard(n: Int): Int {
        return n
    }
    fun readCurve(n: Int): Int {
        return n
    }
    fun readMedian(n: Int): Int {
        return n
    }
    fun readBattery(n: Int): Int {
        return n
    }
    fun readClock(n: Int): Int {
        return n
    }
    private var gauge = 0
    private var level = 0
    private var tide = 0
    private var float = 0
    private var wave = 0
    private var marsh = 0
    private var station = 0
    private var frame = 0
    private var link = 0
    val gaugeNow: Int = 1
    val levelNow: Int = 1
    val tideNow: Int = 1
    val floatNow: Int = 1
    val waveNow: Int = 1
    val marshNow: Int = 1
    val stationNow: Int = 1
    val frameNow: Int = 1
}
class TidePart {
    fun readGauge(n: Int): Int {
        return n
    }
    fun readLevel(n: Int): Int {
        return n
    }
    fun readTide(n: Int): Int {
        return n
    }
    fun readFloat(n: Int): Int {
        return n
    }
    fun readWave(n: Int): Int {
        return n
    }
    fun readMarsh(n: Int): Int {
        return n
    }
    fun readStation(n: Int): Int {
        return n
    }
    fun readFrame(n: Int): Int {
        return n
    }
    fun readLink(n: Int): Int {
        return n
    }
    fun readBoard(n: Int): Int {
        return n
    }
    fun readCurve(n: Int): Int {
        return n
    }
    fun readMedian(n: Int): Int {
        return n
    }
    fun readBattery(n: Int): Int {
        return n
    }
    fun readClock(n: Int): Int {
        return n
    }
    private var gauge = 0
    private var level = 0
    private var tide = 0
    private var float = 0
    private var wave = 0
    private var marsh = 0
    private var station = 0
    private var frame = 0
    private var link = 0
    val gaugeNow: Int = 1
    val levelNow: Int = 1
    val tideNow: Int = 1
    val floatNow: Int = 1
    val waveNow: Int = 1
    val marshNow: Int = 1
    val stationNow: Int = 1
    val frameNow: Int = 1
}
class FloatPart {
    fun readGauge(n: Int): Int {
        return n
    }
    fun readLevel(n: Int): Int {
        return n
    }
    fun readTide(n: Int): Int {
        return n
    }
    fun readFloat(n: Int): Int {
        return n
    }
    fun readWave(n: Int): Int {
        return n
    }
    fun readMarsh(n: Int): Int {
        return n
    }
    fun readStation(n: Int): Int {
        return n
    }
    fun readFrame(n: Int): Int {
        return n
    }
    fun readLink(n: Int): Int {
        return n
    }
    fun readBoard(n: Int): Int {
        return n
    }
    fun readCurve(n: Int): Int {
        return n
    }
    fun readMedian(n: Int): Int {
        return n
    }
    fun readBattery(n: Int): Int {
        return n
    }
    fun readClock(n: Int): Int {
        return n
    }
    private var gauge = 0
    private var level = 0
    private var tide = 0
    private var float = 0
    private var wave = 0
    private var marsh = 0
    private var station = 0
    private var frame = 0
    private var link = 0
    val gaugeNow: Int = 1
    val levelNow: Int = 1
    val tideNow: Int = 1
    val floatNow: Int = 1
    val waveNow: Int = 1
    val marshNow: Int = 1
    val stationNow: Int = 1
    val frameNow: Int = 1
}
class WavePart {
    fun readGauge(n: Int): Int {
        return n
    }
    fun readLevel(n: Int): Int {
        return n
    }
    fun readTide(n: Int): Int {
        return n
    }
    fun readFloat(n: Int): Int {
        return n
    }
    fun readWave(n: Int): Int {
        return n
    }
    fun readMarsh(n: Int): Int {
        return n
    }
    fun readStation(n: Int): Int {
        return n
    }
    fun readFrame(n: Int): Int {
        return n
    }
    fun readLink(n: Int): Int {
        return n
    }
    fun readBoard(n: Int): Int {
        return n
    }
    fun readCurve(n: Int): Int {
        return n
    }
    fun readMedian(n: Int): Int {
        return n
    }
    fun readBattery(n: Int): Int {
        return n
    }
    fun readClock(n: Int): Int {
        return n
    }
    private var gauge = 0
    private var level = 0
    private var tide = 0
    private var float = 0
    private var wave = 0
    private var marsh = 0
    private var station = 0
    private var frame = 0
    private var link = 0
    val gaugeNow: Int = 1
    val levelNow: Int = 1
    val tideNow: Int = 1
    val floatNow: Int = 1
    val waveNow: Int = 1
    val marshNow: Int = 1
    val stationNow: Int = 1
    val frameNow: Int = 1
}
class MarshPart {
    fun readGauge(n: Int): Int {
        return n
    }
    fun readLevel(n: Int): Int {
        return n
    }
    fun readTide(n: Int): Int {
        return n
    }
    fun readFloat(n: Int): Int {
        return n
    }
    fun readWave(n: Int): Int {
        return n
    }
    fun readMarsh(n: Int): Int {
        return n
    }
    fun readStation(n: Int): Int {
        return n
    }
    fun readFrame(n: Int): Int {
        return n
    }
    fun readLink(n: Int): Int {
        return n
    }
    fun readBoard(n: Int): Int {
        return n
    }
    fun readCurve(n: Int): Int {
        return n
    }
    fun readMedian(n: Int): Int {
        return n
    }
    fun readBattery(n: Int): Int {
        return n
    }
    fun readClock(n: Int): Int {
        return n
    }
    private var gauge = 0
    private var level = 0
    private var tide = 0
    private var float = 0
    private var wave = 0
    private var marsh = 0
    private var station = 0
    private var frame = 0
    private var link = 0
    val gaugeNow: Int = 1
    val levelNow: Int = 1
    val tideNow: Int = 1
    val floatNow: Int = 1
    val waveNow: Int = 1
    val marshNow: Int = 1
    val stationNow: Int = 1
    val frameNow: Int = 1
}
class StationPart {
    fun readGauge(n: Int): Int {
        return n
    }
    fun readLevel(n: Int): Int {
        return n
    }
    fun readTide(n: Int): Int {
        return n
    }
    fun readFloat(n: Int): Int {
        return n
    }
    fun readWave(n: Int): Int {
        return n
    }
    fun readMarsh(n: Int): Int {
        return n
    }
    fun readStation(n: Int): Int {
        return n
    }
    fun readFrame(n: Int): Int {
        return n
    }
    fun readLink(n: Int): Int {
        return n
    }
    fun readBoard(n: Int): Int {
        return n
    }
    fun readCurve(n: Int): Int {
        return n
    }
    fun readMedian(n: Int): Int {
        return n
    }
    fun readBattery(n: Int): Int {
        return n
    }
    fun readClock(n: Int): Int {
        return n
    }
    private var gauge = 0
    private var level = 0
    private var tide = 0
    private var float = 0
    private var wave = 0
    private var marsh = 0
    private var station = 0
    private var frame = 0
    private var link = 0
    val gaugeNow: Int = 1
    val levelNow: Int = 1
    val tideNow: Int = 1
    val floatNow: Int = 1
    val waveNow: Int = 1
    val marshNow: Int = 1
    val stationNow: Int = 1
    val frameNow: Int = 1
}
class FramePart {
    fun readGauge(n: Int): Int {
        return n
    }
    fun readLevel(n: Int): Int {
        return n
    }
    fun readTide(n: Int): Int {
        return n
    }
    fun readFloat(n: Int): Int {
        return n
    }
    fun readWave(n: Int): Int {
        return n
    }
    fun readMarsh(n: Int): Int {
        return n
    }
    fun readStation(n: Int): Int {
        return n
    }
    fun readFrame(n: Int): Int {
        return n
    }
    fun readLink(n: Int): Int {
        return n
    }
    fun readBoard(n: Int): Int {
        return n
    }
    fun readCurve(n: Int): Int {
        return n
    }
    fun readMedian(n: Int): Int {
        return n
    }
    fun readBattery(n: Int): Int {
        return n
    }
    fun readClock(n: Int): Int {
        return n
    }
    private var gauge = 0
    private var level = 0
    private var tide = 0
    private var float = 0
    private var wave = 0
    private var marsh = 0
    private var station = 0
    private var frame = 0
    private var link = 0
    val gaugeNow: Int = 1
    val levelNow: Int = 1
    val tideNow: Int = 1
    val floatNow: Int = 1
    val waveNow: Int = 1
    val marshNow: Int = 1
    val stationNow: Int = 1
    val frameNow: Int = 1
}
