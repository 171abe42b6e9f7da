/** Keeps a server and its database running until it is told to stop, however either of them ends. */
import { spawn } from 'node:child_process';
import { resolve } from 'node:path';
import { Stopped } from './stopped.mjs';

const root = resolve(import.meta.dirname, '..');
const pause = (ms) => new Promise((done) => setTimeout(done, ms));

/** Times that something may end before it was there, one after the other, until that is told instead of tried again. */
const mostTries = 8;

/**
 * Runs the server with these environment variables on a cluster, and starts either again when it ends. `onListening` is told the server's message each time; `say` what had to be
 * started again.
 * @returns the server's process now, how to stop it, and a promise of the end. @throws Stopped (in that promise) when one of them does not start.
 */
export function keep({ cluster, environment, onListening = () => undefined, say = console.error }) {
  let server = null;
  let stopping = false;
  let tries = 0;

  const launch = () => {
    server = spawn(process.execPath, ['--import', 'tsx', 'apps/server/src/main.ts'], {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env: { ...process.env, ...environment },
      detached: true,
    });
    server.on('message', (message) => {
      tries = 0;
      onListening(message);
    });
    return new Promise((done) => server.once('exit', (code) => done(code)));
  };

  const keepServer = async () => {
    for (;;) {
      const code = await launch();
      if (stopping) return code ?? 0;
      // One that was killed says nothing about the next.
      if (code !== null) tries++;
      if (tries >= mostTries) throw new Stopped(`The server ended ${mostTries} times before it listened, last with ${code}.`);
      say(`The server ended${code === null ? '' : ` with ${code}`}; it is started again.`);
      await pause(100 + 100 * tries);
    }
  };

  const keepDatabase = async () => {
    for (let failed = 0; !stopping; await pause(200)) {
      if (cluster.process()) continue;
      const { ok, text } = cluster.start();
      if (stopping) return;
      if (ok) say('The database ended; it was started again.');
      failed = ok ? 0 : failed + 1;
      if (failed >= mostTries * 4) throw new Stopped(`The database ended and does not start again: ${text.split('\n').slice(-3).join('\n')}`);
    }
  };

  const stop = () => {
    stopping = true;
    server?.kill('SIGTERM');
  };
  const ended = Promise.all([keepServer(), keepDatabase()])
    .then(([code]) => code)
    .finally(stop);
  return { ended, stop, server: () => server };
}
