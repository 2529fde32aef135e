import type { AnalysisView, Problem } from '../../contract/views.ts';
import type { Conclusions, Findings } from '../../core/analysis/conclude.ts';
import * as statements from '../../store/statements/analyses.ts';
import type { Context } from '../context.ts';

interface AnalysisRow extends Record<string, unknown> {
  readonly state: AnalysisView['state'];
  readonly problem: Problem | null;
  readonly findings: Conclusions | null;
  readonly cost_seconds: number;
}

/** How far the analysis of a programme is, and what it found; null where none was asked for. */
export async function readAnalysis(context: Context, programmeId: string): Promise<AnalysisRow | null> {
  const [row] = await context.database.query<AnalysisRow>(statements.FIND_ANALYSIS, [programmeId]);
  return row ?? null;
}

/** All that the analysis of a programme found, with what is as long as the programme; null while it is not known. */
export async function readFindings(context: Context, programmeId: string): Promise<Findings | null> {
  const [row] = await context.database.query<{ findings: Findings }>(statements.FIND_WHOLE_FINDINGS, [programmeId]);
  return row?.findings ?? null;
}
