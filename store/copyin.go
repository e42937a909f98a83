package store

import (
	"cmp"
	"context"
	"encoding/binary"
	"fmt"
	"io"
	"math"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"juxtagram/core/ahead"
)

// copyIn enters rows into a table while write tells them. It is for the tables that
// a survey fills by ten thousands: their values go as the database takes them,
// without a look at what each is.
func copyIn(ctx context.Context, tx pgx.Tx, table string, columns []string, write func(*rows)) error {
	from, to := io.Pipe()
	done := ahead.Begin(func() (pgconn.CommandTag, error) {
		tag, err := tx.Conn().PgConn().CopyFrom(ctx, from, "COPY "+table+" ("+strings.Join(columns, ", ")+") FROM STDIN BINARY")
		_ = from.CloseWithError(err) // whoever writes on is told
		return tag, err
	})
	w := &rows{out: to, columns: len(columns)}
	defer func() { // of a panic of write's too
		_ = to.CloseWithError(io.ErrUnexpectedEOF)
		_, _ = done()
	}()
	w.buf = append(w.buf, "PGCOPY\n\xff\r\n\x00"...)
	w.buf = append(w.buf, 0, 0, 0, 0, 0, 0, 0, 0) // no flags, no extension
	write(w)
	w.buf = binary.BigEndian.AppendUint16(w.buf, math.MaxUint16) // the end
	w.flush()
	_ = to.CloseWithError(w.wrong)
	_, err := done()
	return cmp.Or(w.wrong, err)
}

// rows writes rows in PostgreSQL's binary format of COPY, as its manual lays it down:
// each value behind its length, in the order of the columns. A number must be as wide
// as its column. After a value that does not fit nothing is entered; where the database
// takes no more, copying tells why.
type rows struct {
	out     io.Writer
	buf     []byte
	columns int
	ended   bool  // nobody reads on
	wrong   error // the first value that does not fit
}

// flushAt is how many bytes are sent at once.
const flushAt = 60 << 10

func (w *rows) flush() {
	if !w.ended && w.wrong == nil {
		_, err := w.out.Write(w.buf)
		w.ended = err != nil
	}
	w.buf = w.buf[:0]
}

// row begins a row.
func (w *rows) row() {
	if len(w.buf) >= flushAt {
		w.flush()
	}
	w.buf = binary.BigEndian.AppendUint16(w.buf, uint16(w.columns))
}

func (w *rows) length(n int) { w.buf = binary.BigEndian.AppendUint32(w.buf, uint32(n)) }

func (w *rows) null() { w.length(-1) }

func (w *rows) text(s string) {
	w.length(len(s))
	w.buf = append(w.buf, s...)
}

// bytea writes bytes; nil: null.
func (w *rows) bytea(b []byte) {
	if b == nil {
		w.null()
		return
	}
	w.text(string(b))
}

func (w *rows) jsonb(b []byte) {
	w.length(1 + len(b))
	w.buf = append(append(w.buf, 1), b...) // the format's version
}

func (w *rows) boolean(b bool) {
	w.length(1)
	if b {
		w.buf = append(w.buf, 1)
	} else {
		w.buf = append(w.buf, 0)
	}
}

func (w *rows) integer(n int) {
	if n != int(int32(n)) && w.wrong == nil {
		w.wrong = fmt.Errorf("%d is more than a column holds", n)
	}
	w.length(4)
	w.buf = binary.BigEndian.AppendUint32(w.buf, uint32(int32(n)))
}

func (w *rows) bigint(n int64) {
	w.length(8)
	w.buf = binary.BigEndian.AppendUint64(w.buf, uint64(n))
}

func (w *rows) double(n float64) { w.bigint(int64(math.Float64bits(n))) }

// timestamp writes a timestamptz: microseconds since the year 2000.
func (w *rows) timestamp(t time.Time) { w.bigint(t.UnixMicro() - 946_684_800_000_000) }

// orNull writes what a pointer points to.
func orNull[T any](w *rows, write func(T), p *T) {
	if p == nil {
		w.null()
		return
	}
	write(*p)
}
