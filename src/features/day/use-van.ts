'use client'
import { useEffect, useMemo } from 'react'
import { type StockItem, stockOf } from '@/core/workday/stock'
import { useJob } from '../sync/context'

/** What is in the van, with what waits on this device; null until the server said. */
export function useVan(): readonly StockItem[] | null {
  const stock = useJob((s) => s.stock)
  const pending = useJob((s) => s.pending)
  const look = useJob((s) => s.lookIntoVan)
  useEffect(() => {
    void look()
    const again = () => void look()
    window.addEventListener('focus', again)
    return () => window.removeEventListener('focus', again)
  }, [look])
  return useMemo(() => {
    const moves = pending.flatMap((a) => (a.kind === 'stock' ? [a.move] : []))
    return stock && (moves.length ? stockOf(moves, stock) : stock)
  }, [stock, pending])
}
