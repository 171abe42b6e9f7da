export * from './api.js';
export * from './ask.js';
export * from './worker.js';
