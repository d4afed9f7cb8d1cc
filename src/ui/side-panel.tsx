'use client'
import { X } from 'lucide-react'
import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'

/** A sheet from the right for reading beside the work: history, shortcuts. Escape closes it. */
export function SidePanel({ open, onClose, title, children }: { open: boolean; onClose: () => void; title: string; children: ReactNode }) {
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="no-print fixed inset-0 z-30 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="no-print fixed inset-y-0 right-0 z-40 flex w-[min(26rem,100vw)] flex-col border-l border-rule-2 bg-sheet"
        >
          <div className="flex items-center border-b border-rule px-4 py-2">
            <Dialog.Title className="flex-1 text-lg">{title}</Dialog.Title>
            <Dialog.Close className="btn px-2" aria-label="Close">
              <X size={18} aria-hidden />
            </Dialog.Close>
          </div>
          <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
