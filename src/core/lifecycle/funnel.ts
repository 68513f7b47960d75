import { PHASES, type Phase } from './phase';

/** The steps a name goes through until it has its verdict, cheapest first. */
export const FUNNEL_STEPS = ['given', 'known', 'dns', 'record', 'registrar'] as const;

/** Names of a batch that are alike in what they wait for, who settled them, and what they turned out to be. */
export interface FunnelCell {
  waits: 'dns' | 'record' | 'registrar' | null;
  /**
   * known: an answer from before the batch was fresh enough; none: nobody has said anything yet; queue: its registry's turn is far off;
   * unasked: who could know could not be asked.
   */
  by: 'none' | 'known' | 'dns' | 'rdap' | 'whois' | 'registrar' | 'source' | 'queue' | 'unasked';
  phase: Phase;
  count: number;
}

export interface Funnelled {
  depth: 'record' | 'registrar' | 'full';
  read: number;
  repeated: number;
  setAside: number;
  domains: number;
  cells: FunnelCell[];
}

export interface FunnelStep {
  step: (typeof FUNNEL_STEPS)[number];
  /** Names that come to this step. */
  comes: number;
  /** Those that leave the funnel here, by what they turned out to be. */
  leaves: { as: Phase | 'repeated' | 'set-aside'; count: number }[];
  /** Those that wait here. */
  waits: number;
}

/** How many names come to each step, leave it with a verdict, and wait: what comes is always what leaves, waits and goes on. */
export function funnelSteps({ depth, read, repeated, setAside, domains, cells }: Funnelled): FunnelStep[] {
  const sum = (is: (cell: FunnelCell) => boolean) =>
    cells.reduce((total, cell) => total + (is(cell) ? cell.count : 0), 0);
  const byPhase = (is: (cell: FunnelCell) => boolean) =>
    PHASES.map((phase) => ({ as: phase, count: sum((cell) => cell.phase === phase && is(cell)) }));
  const settledBy =
    (...by: FunnelCell['by'][]) =>
    (cell: FunnelCell) =>
      cell.waits === null && by.includes(cell.by);
  const waits = {
    dns: sum((cell) => cell.waits === 'dns' || settledBy('none', 'source')(cell)),
    record: sum((cell) => cell.waits === 'record' || settledBy('queue')(cell)),
    registrar: sum((cell) => cell.waits === 'registrar'),
  };
  const isKnown = settledBy('known');
  const isRegistrar = settledBy('registrar');
  const isRecord = settledBy('rdap', 'whois', 'unasked');
  const toRegistrar = sum(isRegistrar) + waits.registrar;
  const steps: FunnelStep[] = [
    {
      step: 'given',
      comes: read,
      leaves: [
        { as: 'repeated', count: repeated },
        { as: 'set-aside', count: setAside },
      ],
      waits: 0,
    },
    { step: 'known', comes: domains, leaves: byPhase(isKnown), waits: 0 },
    { step: 'dns', comes: domains - sum(isKnown), leaves: byPhase(settledBy('dns')), waits: waits.dns },
    {
      step: 'record',
      comes: sum(isRecord) + waits.record + toRegistrar,
      leaves: byPhase(isRecord),
      waits: waits.record,
    },
  ];
  if (depth !== 'record')
    steps.push({ step: 'registrar', comes: toRegistrar, leaves: byPhase(isRegistrar), waits: waits.registrar });
  return steps.map((step) => ({ ...step, leaves: step.leaves.filter(({ count }) => count > 0) }));
}
