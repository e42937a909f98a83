bus.command('x')
