import { parseArgs } from 'node:util';
import { formats } from '../src/index.ts';
import { type Values } from './command.ts';
import { Complaint } from './complaint.ts';
import { commands } from './registry.ts';

const HELP = [
  ...commands.map(({ name, usage }) => `ulvrin ${name} ${usage}`),
  `Formats by extension: ${formats.flatMap((f) => f.extensions).join(', ')}, and .gz after them.`
].join('\n');

async function main(): Promise<void> {
  const [name, ...rest] = process.argv.slice(2);
  const command = commands.find((c) => c.name === name);
  if (!name || rest.includes('--help') || name === '--help') return void process.stdout.write(`${HELP}\n`);
  if (!command) throw new Complaint(`"${name}" is not a command. ${commands.map((c) => c.name).join(', ')} are.`);
  const { values, positionals } = parseArgs({ args: rest, options: command.options, allowPositionals: true });
  await command.run(positionals, values as Values);
}

try {
  await main();
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`.replace(/\n(?=.)/g, ' '));
  process.exitCode = 1;
}
