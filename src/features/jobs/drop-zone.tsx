'use client'
import { type DragEvent, type ReactNode, useState } from 'react'

const hasFiles = (e: DragEvent): boolean => e.dataTransfer.types.includes('Files')

/** The whole page takes a dropped file, and says so while one hangs over it. */
export function DropZone({ onFile, children }: { onFile: (file: File) => void; children: ReactNode }) {
  const [over, setOver] = useState(false)
  return (
    <div
      data-testid="drop-zone"
      onDragOver={(e) => {
        if (!hasFiles(e)) return
        e.preventDefault()
        setOver(true)
      }}
      onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
      onDrop={(e) => {
        setOver(false)
        const file = e.dataTransfer.files[0]
        if (!file) return
        e.preventDefault()
        onFile(file)
      }}
    >
      {children}
      {over && (
        <div
          className={
            'pointer-events-none fixed inset-3 z-50 grid place-items-center border-4 border-dashed border-ink bg-paper/90 text-2xl ' +
            'font-bold'
          }
        >
          Drop the Job file or archive to bring it in
        </div>
      )}
    </div>
  )
}
