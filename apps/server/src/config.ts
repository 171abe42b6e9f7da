/** Where the server listens and stores, from the environment. */
export interface Config {
  readonly host: string;
  readonly port: number;
  readonly databaseUrl: string;
  /** Folder of the built web application; null: API only. */
  readonly webFolder: string | null;
  readonly logLevel: string;
  /** Requests a minute from one address. */
  readonly requestsPerMinute: number;
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
  return {
    host: environment['FILAXIS_HOST'] ?? '127.0.0.1',
    port: number('PORT', 4310),
    databaseUrl,
    webFolder: environment['FILAXIS_WEB'] ?? null,
    logLevel: environment['FILAXIS_LOG'] ?? 'info',
    requestsPerMinute: number('FILAXIS_REQUESTS_PER_MINUTE', 1200),
  };
}
