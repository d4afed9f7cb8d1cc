'use client'
import { type ComponentProps, useSyncExternalStore } from 'react'

const never = () => () => undefined

/**
 * A part of the page that can be read as it is served, and used only from when its code runs: what is typed or ticked before would
 * are on the screen and nowhere else.
 */
export function Alive({ children, ...rest }: ComponentProps<'div'>) {
  const alive = useSyncExternalStore(
    never,
    () => true,
    () => false,
  )
  return (
    <div {...rest} inert={!alive}>
      {children}
    </div>
  )
}
