import { readers, writers } from '@filaxis/formats';
import { check } from './check.js';
import { convert } from './convert.js';
import { exitCodes, Refused } from './exit.js';
import { nodes } from './nodes.js';
import { run } from './run.js';

const endings = (formats: object): string => Object.keys(formats).join(' ');

const usage = `filaxis run DOC [--dial id=value]… [--time s | --frames 1..50 [--each .glb]] [--output NAME]… --out FILE [--report FILE] [how]
        FILE: ${endings(writers)}; frames: .zip, .usda, or .glb with morph targets
        --outputs: all outputs, each an object of its name   --node ID… : results of nodes instead
filaxis check DOC [--report FILE]      0 fine · 1 works, with warnings · 2 wrong
filaxis nodes [--json]                 every node with its ports and settings
filaxis nodes --example NODE           a small document in which that node is at work
filaxis convert IN OUT [--up z] [--unit m|cm|mm] [how]
        IN: ${endings(readers)}; --up and --unit say what it was made in
        how: --out-up y|z   --out-unit m|cm|mm   --expanded (copies as one mesh)   --instances (glTF and USD: smaller, but some readers show one copy)
             --parts (each part an object: glTF, USD, OBJ)   --joined (all as one object)   --tangents (MikkTSpace: glTF)   --welded (one vertex a point: PLY)
             --uv SET (the first UV set)   --colour VALUE (as vertex colour)

DOC is a document or a .filaxis.zip; - reads standard input. Files named by a node's file setting are looked for beside DOC, and elsewhere only with --outside.
Exit codes: 0 done, 1 done with warnings, 2 refused or failed, 130 interrupted.`;

const commands: Readonly<Record<string, (args: readonly string[]) => Promise<number> | number>> = { run, check, nodes, convert };

async function main(): Promise<number> {
  const [name, ...args] = process.argv.slice(2);
  if (!name || name === 'help' || name === '--help' || name === '-h') {
    console.log(usage);
    return name ? exitCodes.done : exitCodes.failed;
  }
  const command = Object.hasOwn(commands, name) ? commands[name] : undefined;
  if (!command) throw new Refused(`There is no command "${name}". Commands: ${Object.keys(commands).join(', ')}.`);
  if (args.includes('--help')) {
    console.log(usage);
    return exitCodes.done;
  }
  return command(args);
}

// Whoever reads may stop before the end, as `head` does.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(exitCodes.done);
  throw error;
});

try {
  process.exitCode = await main();
} catch (error) {
  // One plain line; further problems of a document follow one a line.
  console.error(`filaxis: ${error instanceof Error ? error.message : String(error)}`);
  process.exitCode = exitCodes.failed;
}
