shell.command('ls')
