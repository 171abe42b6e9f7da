#!/usr/bin/env node
// The work is done in a thread of its own, so that an interrupt is heard at once, however long a step takes.
import { Worker } from 'node:worker_threads';

const work = new Worker(new URL('./work.mjs', import.meta.url), { argv: process.argv.slice(2) });
process.on('SIGINT', () => process.exit(130));
work.on('error', (error) => {
  console.error(`filaxis: ${error instanceof Error ? error.message : String(error)}`);
  process.exitCode = 2;
});
work.on('exit', (code) => {
  process.exitCode ||= code;
});
