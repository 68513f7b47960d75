import type { LifeDrawing, Shape } from './shapes';

/** Shapes as elements. @param onSpan tells of the span that the pointer is over. */
export function Shapes({ shapes, onSpan }: { shapes: readonly Shape[]; onSpan?(span: number | null): void }) {
  return shapes.map(({ tag: Tag, attributes, text, span }, n) => (
    <Tag key={n} {...camel(attributes)} onPointerEnter={onSpan && span !== undefined ? () => onSpan(span) : undefined}>
      {text}
    </Tag>
  ));
}

export function Drawing({ drawing, label, className }: { drawing: LifeDrawing; label: string; className?: string }) {
  return (
    <svg
      width={drawing.width}
      height={drawing.height}
      viewBox={`0 0 ${drawing.width} ${drawing.height}`}
      role={label === '' ? undefined : 'img'}
      aria-label={label === '' ? undefined : label}
      aria-hidden={label === '' ? true : undefined}
      className={className ?? 'block max-w-full'}
    >
      <Shapes shapes={drawing.shapes} />
    </svg>
  );
}

/** Attributes as React wants them. */
function camel(attributes: Shape['attributes']): Record<string, string | number> {
  return Object.fromEntries(
    Object.entries(attributes).map(([name, value]) => [
      name.replace(/-(\w)/g, (_, letter) => letter.toUpperCase()),
      value,
    ]),
  );
}
