import { readFileSync } from 'node:fs';
import { isLoopback } from './http/guards.js';
import type { RequestLimits } from './http/limits.js';

/** Where the server listens and stores, from the environment. */
export interface Config {
  readonly host: string;
  readonly port: number;
  readonly databaseUrl: string;
  /** Folder of the built web application; null: API only. */
  readonly webFolder: string | null;
  readonly logLevel: string;
  readonly limits: RequestLimits;
  /** Names by which the server is asked for besides the address it listens on. */
  readonly hosts: readonly string[];
  /** What has to be known to come in; null: only the machine itself reaches the server. */
  readonly token: string | null;
  /** Hours after which deleted documents are gone for good. */
  readonly undoHours: number;
}

/** @throws Error naming the variable that is missing or wrong. */
export function readConfig(environment: NodeJS.ProcessEnv): Config {
  const databaseUrl = environment['DATABASE_URL'];
  if (!databaseUrl) throw new Error('DATABASE_URL is not set; it names the PostgreSQL database.');
  const number = (name: string, otherwise: number): number => {
    const text = environment[name];
    const value = text === undefined ? otherwise : Number(text);
    if (!Number.isInteger(value) || value < 0) throw new Error(`${name} is "${text}"; it must be a whole number, 0 or more.`);
    return value;
  };
  const host = environment['FILAXIS_HOST'] ?? '127.0.0.1';
  const token = readToken(environment);
  if (!isLoopback(host) && token === null)
    throw new Error(
      `FILAXIS_HOST is ${host}, which others can reach. Give a token in FILAXIS_TOKEN, or a file with one in FILAXIS_TOKEN_FILE; whoever opens Filaxis is asked for it.`,
    );
  return {
    host,
    port: number('PORT', 4310),
    databaseUrl,
    webFolder: environment['FILAXIS_WEB'] ?? null,
    logLevel: environment['FILAXIS_LOG'] ?? 'info',
    limits: {
      changes: number('FILAXIS_CHANGES_PER_MINUTE', 6000),
      looks: number('FILAXIS_LOOKS_PER_MINUTE', 30_000),
      files: number('FILAXIS_FILES_PER_MINUTE', 300),
      reports: 60,
    },
    hosts: (environment['FILAXIS_HOSTS'] ?? '')
      .split(',')
      .map((name) => name.trim().toLowerCase())
      .filter(Boolean),
    token,
    undoHours: number('FILAXIS_UNDO_HOURS', 24),
  };
}

/** @throws Error when the token is too short to be one, or its file cannot be read. */
function readToken(environment: NodeJS.ProcessEnv): string | null {
  const file = environment['FILAXIS_TOKEN_FILE'];
  const token = (file === undefined ? environment['FILAXIS_TOKEN'] : readFileSync(file, 'utf8'))?.trim();
  if (token === undefined || token === '') return null;
  if (token.length < 16) throw new Error('The token has fewer than 16 characters; take a longer one, such as `openssl rand -hex 16` gives.');
  return token;
}
