import { expect, test } from 'vitest';
import { readConfig } from '../src/config.js';

const base = { DATABASE_URL: 'postgres://quay' };

test('without more than a database the server is for this machine alone', () => {
  expect(readConfig(base)).toEqual({
    host: '127.0.0.1',
    port: 4310,
    databaseUrl: 'postgres://quay',
    webFolder: null,
    logLevel: 'info',
    limits: { changes: 6000, looks: 30_000, files: 300, reports: 60 },
    hosts: [],
    token: null,
    undoHours: 24,
  });
});

test('everything can be given', () => {
  const given = {
    ...base,
    FILAXIS_HOST: '0.0.0.0',
    FILAXIS_TOKEN: ' sixteen letters. ',
    PORT: '0',
    FILAXIS_WEB: 'web',
    FILAXIS_LOG: 'warn',
    FILAXIS_CHANGES_PER_MINUTE: '1',
    FILAXIS_LOOKS_PER_MINUTE: '2',
    FILAXIS_FILES_PER_MINUTE: '3',
    FILAXIS_HOSTS: 'Quay.example, ,slip.example',
    FILAXIS_UNDO_HOURS: '0',
  };
  expect(readConfig(given)).toEqual({
    host: '0.0.0.0',
    port: 0,
    databaseUrl: 'postgres://quay',
    webFolder: 'web',
    logLevel: 'warn',
    limits: { changes: 1, looks: 2, files: 3, reports: 60 },
    hosts: ['quay.example', 'slip.example'],
    token: 'sixteen letters.',
    undoHours: 0,
  });
});

test.each(['-1', '1.5', 'many', 'NaN'])('a port of %s is told by its name', (port) =>
  expect(() => readConfig({ ...base, PORT: port })).toThrow(`PORT is "${port}"; it must be a whole number, 0 or more.`),
);

test('without a database nothing is begun', () => expect(() => readConfig({})).toThrow('DATABASE_URL is not set'));
