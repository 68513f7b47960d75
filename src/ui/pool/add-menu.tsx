import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { GROUP_MODES, type Group, MAX_DEPTH, type SievePart } from '../../core/pool/conditions';
import { FACT_NAMES, FACT_PARTS, FACTS, type FactPart } from '../../core/pool/facts';
import { freshCondition } from './fresh-condition';
import { GROUP_WORDS } from './group-words';

const PART_TITLES: Record<FactPart, string> = {
  name: 'The name',
  record: 'The record',
  past: 'The past',
  links: 'The links',
  lists: 'As lists state it',
  offers: 'Offers',
  sources: 'Where it comes from',
  yours: 'What you said of it',
  asked: 'How old a figure is',
};

export function GroupAdd({ depth, onAdd }: { depth: number; onAdd(part: SievePart): void }) {
  const [open, setOpen] = useState(false);
  return (
    <AddMenu open={open} onOpen={setOpen} onAdd={onAdd} withGroups={depth + 1 < MAX_DEPTH} className="set text-small">
      add to the group
    </AddMenu>
  );
}

/** All facts by what they are about, and groups. */
export function AddMenu({
  open,
  onOpen,
  onAdd,
  withGroups,
  className = 'quiet',
  children,
}: {
  open: boolean;
  onOpen(open: boolean): void;
  onAdd(part: SievePart): void;
  withGroups: boolean;
  className?: string;
  children: string;
}) {
  const item = 'px-3 py-0.5 outline-none data-[highlighted]:bg-damson-soft';
  return (
    <DropdownMenu.Root open={open} onOpenChange={onOpen}>
      <DropdownMenu.Trigger className={className}>{children}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-h-[var(--radix-dropdown-menu-content-available-height)] w-[430px] overflow-auto rounded border border-rule bg-sheet py-2 shadow-lg"
        >
          <div className="columns-2 gap-0">
            {FACT_PARTS.map((section) => (
              <DropdownMenu.Group key={section} className="mb-2 break-inside-avoid">
                <DropdownMenu.Label className="small px-3">{PART_TITLES[section]}</DropdownMenu.Label>
                {FACT_NAMES.filter((fact) => FACTS[fact].part === section).map((fact) => (
                  <DropdownMenu.Item key={fact} className={item} onSelect={() => onAdd(freshCondition(fact))}>
                    {FACTS[fact].label}
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.Group>
            ))}
            {withGroups && (
              <DropdownMenu.Group className="break-inside-avoid">
                <DropdownMenu.Label className="small px-3">Groups</DropdownMenu.Label>
                {GROUP_MODES.map((mode) => (
                  <DropdownMenu.Item
                    key={mode}
                    className={item}
                    onSelect={() => onAdd({ type: 'group', mode, parts: [] } satisfies Group)}
                  >
                    {GROUP_WORDS[mode]}
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.Group>
            )}
          </div>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
