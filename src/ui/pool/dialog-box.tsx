import { Dialog } from 'radix-ui';

export function Box({
  title,
  wide,
  onClose,
  children,
}: {
  title: string;
  wide?: boolean;
  onClose(): void;
  children: React.ReactNode;
}) {
  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed left-1/2 top-20 z-50 max-h-[84vh] ${wide ? 'w-[720px] max-w-[calc(100vw-16px)]' : 'w-[440px]'} -translate-x-1/2 overflow-auto rounded-lg border border-rule bg-sheet p-5 shadow-xl`}
        >
          <Dialog.Title className="mb-3 font-serif text-title font-semibold">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
