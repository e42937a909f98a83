bus.listen('event', f)
emitter.listen(handler)
