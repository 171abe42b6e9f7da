// The command line runs from its TypeScript sources, so it is never older than they are.
import { register } from 'tsx/esm/api';

register();
await import('../src/main.ts');
