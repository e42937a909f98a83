import { program } from 'commander'
program.command('predict <station>').action(run)
program.command('list', 'all stations')
program.option('--hours <n>')
