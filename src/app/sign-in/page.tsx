import type { Metadata } from 'next'
import { ownPath } from '@/server/guards'
import { SignIn } from '@/features/sign-in/sign-in'

export const metadata: Metadata = { title: 'Sign in' }

export default async function SignInPage({ searchParams }: { searchParams: Promise<Record<string, string | string[] | undefined>> }) {
  const { to } = await searchParams
  return <SignIn to={ownPath(to)} />
}
