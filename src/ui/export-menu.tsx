'use client';
import { DropdownMenu } from 'radix-ui';
import { FORMAT_TITLES, FORMATS } from './pool/export-formats';

/** A list as a file, in the format that is chosen. @param address what answers with it, without the format. @param label what is taken out. */
export function ExportMenu({
  address,
  label,
  className = 'quiet',
}: {
  address: string;
  label: string;
  className?: string;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className={`${className} whitespace-nowrap`}>
        Export<span className="sr-only"> {label}</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 min-w-52 rounded border border-rule bg-sheet py-1 shadow-lg"
        >
          <DropdownMenu.Label className="small px-3">{label[0].toUpperCase() + label.slice(1)} as</DropdownMenu.Label>
          {FORMATS.map((format) => (
            <DropdownMenu.Item
              key={format}
              asChild
              className="block px-3 py-1 outline-none data-[highlighted]:bg-damson-soft"
            >
              <a href={`${address}${address.includes('?') ? '&' : '?'}format=${format}`} download>
                {FORMAT_TITLES[format]}
              </a>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
