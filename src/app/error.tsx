'use client'
import { Broken } from '@/ui/broken'

/** A page that failed, within the frame of the application. */
export default function PageError({ error }: { error: Error }) {
  // A file of code that did not come is asked for again with the page alone.
  return <Broken message={error.message} retry={() => window.location.reload()} />
}
