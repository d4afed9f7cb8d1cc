import { store } from '@/server/data'
import { DueView } from '@/features/jobs/due-view'
import { dueAgain } from '@/store/due'

export const metadata = { title: 'Due again' }

const seen = () => ({ rows: dueAgain(store()), today: new Date().toISOString().slice(0, 10) })

export default function DuePage() {
  return <DueView {...seen()} />
}
