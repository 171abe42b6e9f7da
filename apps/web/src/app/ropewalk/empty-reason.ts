import { labelById, type FilaxisDocument } from '@filaxis/core';
import type { EvaluationService } from './evaluation.service';

/** Why the 3D view is empty, and which node to look at; null: it is not, or it is not known yet. */
export function emptyReason(document: FilaxisDocument, evaluation: EvaluationService): { text: string; node: string | null } | null {
  const { nodes } = document;
  const counts = evaluation.counts();
  const crashed = evaluation.crashed();
  if (crashed) return { text: crashed, node: null };
  if (!nodes.length) return { text: 'What the graph makes is shown here.', node: null };
  if (counts && (counts.faces || counts.curves || counts.points)) return null;
  const [problem] = evaluation.problems();
  if (problem) return { text: problem.message, node: problem.node ?? null };
  for (const [id, state] of Object.entries(evaluation.nodes())) {
    const empty = state?.warnings.find(({ code }) => code === 'empty');
    const label = labelById(document, id);
    if (empty) return { text: `${label}: ${empty.message} ${empty.remedy ?? ''}`, node: id };
  }
  return counts ? { text: 'Nothing comes out yet.', node: null } : null;
}
