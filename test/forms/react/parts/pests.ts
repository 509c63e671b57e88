export type PestKind = 'aphid' | 'moth';
export interface Report { plot: string; kind: PestKind; count: string; note: string }
export const kinds: PestKind[] = ['aphid', 'moth'];
export async function sendReport(report: Report): Promise<{ ok: true } | { ok: false; errors: Partial<Record<keyof Report, string>> }> {
  return report.plot === 'P0' ? { ok: false, errors: { plot: 'No such plot' } } : { ok: true };
}
