declare module '*/debian.mjs' {
  export const chromiumArguments: readonly string[];
  export function chromiumPath(): string | null;
  export function needChromium(): void;
  export function needPostgres(): void;
}
declare module '*/scripts/postgres.mjs' {
  export interface Cluster {
    url(database: string): string;
    stop(): unknown;
    start(): { ok: boolean; text: string };
    /** The process of its server; 0: none. */
    process(): number;
    port: number;
  }
  export function startPostgres(name?: string): Promise<Cluster>;
  export function needDatabase(cluster: Cluster, database: string): Promise<string>;
  export function freePort(): Promise<number>;
}
declare module '*/scripts/keeper.mjs' {
  import type { ChildProcess } from 'node:child_process';
  import type { Cluster } from '*/scripts/postgres.mjs';
  export function keep(options: {
    cluster: Cluster;
    environment: Record<string, string>;
    onListening?: (message: { url: string }) => void;
    say?: (text: string) => void;
  }): { ended: Promise<number>; stop(): void; server(): ChildProcess | null };
}
