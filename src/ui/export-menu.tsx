'use client';
import { DropdownMenu } from 'radix-ui';
import { FORMAT_TITLES, FORMATS } from './pool/export-formats';

const MENU = 'z-50 min-w-52 rounded border border-rule bg-sheet py-1 shadow-lg';
const ITEM = 'block px-3 py-1 outline-none data-[highlighted]:bg-damson-soft';
const upper = (text: string) => text[0].toUpperCase() + text.slice(1);

/** A list as a file, in the format that is chosen. @param address what answers with it, without the format. @param label what is taken out. */
export function ExportMenu({
  address,
  label,
  also,
  className = 'quiet',
}: {
  address: string;
  label: string;
  /** Another list that is taken out of the same screen. */
  also?: { address: string; label: string };
  className?: string;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className={`${className} whitespace-nowrap`}>
        Export<span className="sr-only"> {label}</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} collisionPadding={8} className={MENU}>
          <DropdownMenu.Label className="small px-3">{upper(label)} as</DropdownMenu.Label>
          <Formats address={address} />
          {also && (
            <DropdownMenu.Sub>
              <DropdownMenu.SubTrigger className={`${ITEM} border-t border-rule`}>
                {upper(also.label)} …
              </DropdownMenu.SubTrigger>
              <DropdownMenu.Portal>
                <DropdownMenu.SubContent className={MENU} collisionPadding={8}>
                  <Formats address={also.address} />
                </DropdownMenu.SubContent>
              </DropdownMenu.Portal>
            </DropdownMenu.Sub>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Formats({ address }: { address: string }) {
  return FORMATS.map((format) => (
    <DropdownMenu.Item key={format} asChild className={ITEM}>
      <a href={`${address}${address.includes('?') ? '&' : '?'}format=${format}`} download>
        {FORMAT_TITLES[format]}
      </a>
    </DropdownMenu.Item>
  ));
}
