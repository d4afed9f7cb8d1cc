'use client'
import { createContext, useContext } from 'react'

/** Puts a sentence of the interface into the words of the world it is about; as it is, where none is set. */
export type Worded = (text: string) => string

const Context = createContext<Worded>((text) => text)
export const WordedProvider = Context
/** A sentence in those words, in place. */
export const Say = ({ children }: { children: string }) => useContext(Context)(children)
export const useWorded = (): Worded => useContext(Context)
