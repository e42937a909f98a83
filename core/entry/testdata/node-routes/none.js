const map = new Map()
map.get('/a', 1)
