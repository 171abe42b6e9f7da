declare module '*/debian.mjs' {
  export const chromiumArguments: readonly string[];
  export function chromiumPath(): string | null;
  export function needChromium(): void;
  export function needPostgres(): void;
}
declare module '*/scripts/postgres.mjs' {
  export function startPostgres(name?: string): Promise<{ url(database: string): string; stop(): unknown; port: number }>;
}
