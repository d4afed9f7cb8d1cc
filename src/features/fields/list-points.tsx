import { leadOfFact } from '@/features/leads/leads'
import { useFollow } from './findings'

/** Where something is answered point by point and none is listed yet: the way to the list of them. */
export function ListPoints() {
  const follow = useFollow()
  return (
    <button type="button" className="btn no-print mt-2" onClick={() => follow({ ...leadOfFact.pointLoads, fields: ['Name'] }, null)}>
      List the points
    </button>
  )
}
