import type { Metadata } from 'next'
import { SignIn } from '@/features/sign-in/sign-in'

export const metadata: Metadata = { title: 'Sign in' }

export default async function SignInPage({ searchParams }: { searchParams: Promise<Record<string, string | string[] | undefined>> }) {
  const { to } = await searchParams
  // Only a path of our own: never another site's address.
  return <SignIn to={typeof to === 'string' && /^\/(?![/\\])/.test(to) ? to : '/'} />
}
