'use client'
import { stages } from '@/core/report/stages'
import { SidePanel } from '@/ui/side-panel'

const general = [
  ['Ctrl + Z', 'Undo'],
  ['Ctrl + Shift + Z', 'Redo'],
  ['Ctrl + K', 'Find a command'],
  ['[ and ]', 'Stage before, stage after'],
  ['G then J', 'All jobs'],
  ['G then Y', 'History'],
  ['?', 'This sheet'],
  ['Tab, arrows, Enter', 'Move through a drawing and select in it'],
  ['Up, Down', 'From row to row of a table'],
  ['Ctrl + P', 'Print the page in front of you'],
  ['Escape', 'Close what is open'],
] as const

export function ShortcutsPanel({ onClose }: { onClose: () => void }) {
  const rows = [...general, ...stages.map((s) => [`G then ${s.key.toUpperCase()}`, `Go to ${s.name}`] as const)]
  return (
    <SidePanel open onClose={onClose} title="Keyboard">
      <table className="w-full">
        <tbody>
          {rows.map(([keys, what]) => (
            <tr key={keys} className="border-b border-rule">
              <th scope="row" className="py-1.5 pr-4 text-left font-normal whitespace-nowrap">
                <kbd className="font-mono">{keys}</kbd>
              </th>
              <td className="py-1.5">{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </SidePanel>
  )
}
