import { scaleLinear } from 'd3-scale';
import { money } from '../../core/wording/format';
import type { OrderShown } from '../../core/wording/orders';
import { ladderOf } from './ladder';

const HEIGHT = 46;
const LINE = 22;

/** An auction on one scale from nothing: where the price stands, how far you go, and between what the worth lies. */
export function LadderChart({ order, width }: { order: OrderShown; width: number }) {
  const { price, least, maximum, worth } = ladderOf(order);
  const x = scaleLinear().rangeRound([0, width]);
  const words = [
    order.priceMinor === null ? null : `the price stands at ${money(order.priceMinor, order.currency)}`,
    `you go up to ${money(order.amountMinor, order.currency)}`,
    order.worthLowMinor === null || order.worthHighMinor === null
      ? 'its worth is not said'
      : `it is worth ${money(order.worthLowMinor, null)} to ${money(order.worthHighMinor, order.currency)}`,
  ];
  const anchor = (share: number) => (share > 0.85 ? 'end' : share < 0.15 ? 'start' : 'middle');
  return (
    <svg width={width} height={HEIGHT} role="img" aria-label={words.filter(Boolean).join(', ')}>
      <line x1={0} x2={width} y1={LINE} y2={LINE} stroke="var(--rule)" />
      {worth && (
        <g>
          <rect
            x={x(worth.low)}
            width={Math.max(2, x(worth.high) - x(worth.low))}
            y={LINE - 6}
            height={12}
            fill="var(--quince)"
          />
          <text
            x={x((worth.low + worth.high) / 2)}
            y={HEIGHT - 2}
            textAnchor={anchor((worth.low + worth.high) / 2)}
            className="fill-muted text-[11px]"
          >
            worth
          </text>
        </g>
      )}
      {price !== null && <rect x={0} width={x(price)} y={LINE - 2} height={4} fill="var(--ink)" />}
      {least !== null && order.state === 'outbid' && (
        <line x1={x(least)} x2={x(least)} y1={LINE - 5} y2={LINE + 5} stroke="var(--ink)" strokeDasharray="2 2" />
      )}
      {maximum !== null && (
        <g>
          <line x1={x(maximum)} x2={x(maximum)} y1={LINE - 9} y2={LINE + 9} stroke="var(--damson)" strokeWidth={2} />
          <text x={x(maximum)} y={10} textAnchor={anchor(maximum)} className="fill-damson text-[11px]">
            you {money(order.amountMinor, null)}
          </text>
        </g>
      )}
      {price !== null && Math.abs(price - (maximum ?? 0)) > 0.16 && (
        <text x={x(price)} y={10} textAnchor={anchor(price)} className="fill-ink text-[11px]">
          {money(order.priceMinor, null)}
        </text>
      )}
    </svg>
  );
}
