import type { PoolView } from '../../core/pool/conditions';
import { Box } from './dialog-box';
import { PRESETS } from './presets';
import { sentence } from './sentences';

/** Starting points for the four kinds of work, each threshold with its reason. */
export default function Starts({ onClose, onChange }: { onClose(): void; onChange(view: PoolView): void }) {
  return (
    <Box title="Starting points" wide onClose={onClose}>
      <p className="small mb-1">To begin with and to change; every figure can be dragged once it is in your sieve.</p>
      {PRESETS.map((preset) => (
        <section key={preset.id} className="border-t border-rule py-3">
          <div className="flex items-baseline gap-3">
            <h2>{preset.name}</h2>
            <span className="small flex-1">{preset.lead}</span>
            <button
              type="button"
              className="quiet"
              aria-label={`Start with ${preset.name}`}
              onClick={() => {
                onChange({ parts: preset.parts.map(({ part }) => part), sorts: preset.sorts, columns: null });
                onClose();
              }}
            >
              Start with it
            </button>
          </div>
          <dl className="mt-1.5 grid grid-cols-1 lg:grid-cols-[230px_1fr] gap-x-4 gap-y-1">
            {preset.parts.map(({ part, reason }) => (
              <div key={reason} className="contents">
                <dt>
                  {part.type !== 'group' &&
                    sentence(part, String).map(({ text, set }, i) => (
                      <span key={i} className={set ? 'font-semibold text-damson' : undefined}>
                        {text}
                      </span>
                    ))}
                </dt>
                <dd className="text-muted">{reason}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </Box>
  );
}
