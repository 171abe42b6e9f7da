export * from './api.js';
export * from './worker.js';
