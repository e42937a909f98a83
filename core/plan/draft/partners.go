package draft

import "juxtagram/core/history"

// PartnersIn are the partners of files, as Survey gives them, by a ledger of their
// changes, which numbers files in its own way: number is the ledger's for a file, file
// the other way round for those it gives. -1: the other does not know it.
func PartnersIn(l *history.Ledger, files []int, limit int, number func(file int) int, file func(number int) int) (list []Partner, of int) {
	var own []int32
	for _, f := range files {
		if n := number(f); n >= 0 {
			own = append(own, int32(n))
		}
	}
	found, of := l.Partners(limit, own...)
	for _, p := range found {
		if f := file(int(p.File)); f >= 0 {
			list = append(list, Partner{f, p.Together})
		}
	}
	return list, of
}
