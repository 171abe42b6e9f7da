/** Jobs of the trade that wire themselves: each runs as it is put in, and gives something to deliver. */
import { expect, test } from 'vitest';
import { checkDocument, countsOf, deliveredPieces, Evaluator, outputsOf, Plan, problemsOf } from '@filaxis/core';
import { recipeDocument, recipes } from '../src/app/ropewalk/recipes/recipes';

for (const recipe of recipes)
  test(`${recipe.title}: no fault, nothing to warn of, faces or copies at its output`, async () => {
    const document = recipeDocument(recipe);
    expect(checkDocument(document)).toEqual([]);
    const plan = new Plan(document);
    const run = await new Evaluator().run(plan);
    expect(problemsOf(plan, run)).toEqual([]);
    expect([...run.nodes].flatMap(([id, { warnings }]) => warnings.map(({ message }) => `${id}: ${message}`))).toEqual([]);
    const outputs = outputsOf(document).map(({ id }) => id);
    expect(outputs).toHaveLength(1);
    const [{ set }] = deliveredPieces(plan, run, outputs);
    expect((set.mesh ? countsOf(set.mesh).faces! : 0) + (set.copies ? countsOf(set.copies).copies! : 0)).toBeGreaterThan(0);
    // No two tags lie on each other.
    const places = document.nodes.map(({ at }) => at!);
    for (const [i, a] of places.entries()) for (const b of places.slice(0, i)) expect(Math.abs(a[0] - b[0]) >= 152 || Math.abs(a[1] - b[1]) >= 62).toBe(true);
  });
