package cache

func read(c cache) { c.Get("/key", nil); c.Put("/key", 3) }
