import { writeFileSync } from 'node:fs';
import { makeReport, Plan } from '@filaxis/core';
import { exitCodes } from './exit.js';
import { readOptions } from './options.js';
import { openSource } from './source.js';

/** `filaxis check`: evaluates the whole document and says what is wrong with it, and where. */
export async function check(args: readonly string[]): Promise<number> {
  const { values, positionals } = readOptions(args, { report: { type: 'string' }, outside: { type: 'boolean' } }, { least: 1, most: 1, names: 'one document' });
  const { document, evaluator } = await openSource(positionals[0], values.outside);
  const plan = new Plan(document);
  const report = makeReport(plan, await evaluator.run(plan));
  if (values.report) writeFileSync(values.report, `${JSON.stringify(report, null, 2)}\n`);
  for (const { pointer, message } of report.problems) console.error(`${pointer}: ${message}`);
  const warnings = Object.entries(report.nodes).flatMap(([id, node]) =>
    node.warnings.map((warning) => `${id}: ${warning.message}${warning.remedy ? ` ${warning.remedy}` : ''}`),
  );
  for (const warning of warnings) console.log(`warning: ${warning}`);
  if (report.problems.length) return exitCodes.failed;
  const faces = Object.values(report.outputs).reduce((sum, output) => sum + output.faces, 0);
  console.log(
    `${document.title}: ${warnings.length ? `works, with ${warnings.length} warnings` : 'fine'} (${document.nodes.length} nodes, ${faces} faces, ${report.ms} ms)`,
  );
  return warnings.length ? exitCodes.warnings : exitCodes.done;
}
