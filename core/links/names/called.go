package names

// Called finds symbols of exactly this name, in the order of files: the numbers
// of their files and of the symbols in them, at most limit.
func (x *Index) Called(name string, limit int) (files, symbols []int, err error) {
	for _, f := range x.holding(name, defines) {
		d, err := x.details(f)
		if err != nil {
			return nil, nil, err
		}
		if d == nil {
			continue
		}
		for i := range d.Outline {
			if d.Outline[i].Name != name {
				continue
			}
			if len(files) == limit {
				return files, symbols, nil
			}
			files, symbols = append(files, f), append(symbols, i)
		}
	}
	return files, symbols, nil
}
