'use client'
import { useEffect, useState } from 'react'
import { type Learnt, learnt, type LoggedTask } from '@/core/workday/log'
import { api } from '@/ui/api'

/** What the firm’s log says of each kind of task; null until the server said. */
export function useLog(): readonly Learnt[] | null {
  const [said, setSaid] = useState<readonly Learnt[] | null>(null)
  useEffect(() => {
    let here = true
    api<readonly LoggedTask[]>('GET', '/api/work-log').then(
      (log) => here && setSaid(learnt(log)),
      () => here && setSaid(null),
    )
    return () => {
      here = false
    }
  }, [])
  return said
}
