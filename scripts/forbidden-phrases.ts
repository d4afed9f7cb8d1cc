/*
 * Words and phrases that no electrician would say to a colleague, or that stand for something that has a name. Each is looked for in every
 * text of the source and in what jobs of three worlds say.
 */
export const forbiddenPhrases: readonly RegExp[] = [
  /\b(nobody|anew|reckon(s|ed|ing)?|nought|for ever|foretold|besides|whoever)\b/i,
  // A part of a cable is a section; what is chosen is used; what is stopped is cancelled.
  /\bstretch(es)?\b/i,
  /\b(taken over|given up)\b/i,
  // What is somewhere is there: it does not stand.
  /\bstands? (beside|ahead|behind|there|somewhere|twice|open|in|on|at|across|under|among)\b/i,
  /\bstands\b/i,
  /\b(is|was) said to be\b|\bas somebody said\b|\b(is|was) told\b(?! (by|from))/i,
  /\bnot looked at\b|\bmade off\b|\blaid another\b|\bwent away\b/i,
  // What a circuit feeds is on it.
  /\bhangs (on|off|from|at) (a|the|it|its)\b(?! cord)/i,
]

/** Words of the other worlds' trades. */
export const foreignTerms: Readonly<Record<'north-america' | 'united-kingdom' | 'southern-africa', RegExp>> = {
  'north-america':
    /aluminium|colour|\b(earth\w*|RCDs?|consumer unit|socket-outlets?|circuit-breakers?|distribution board|back box|live conductor)\b/i,
  'united-kingdom': /\b(GFCI|AFCI|receptacles?|ground(ed|ing|s)?|AWG|panels?|earth leakage|wall box|aluminum|color)\b/i,
  'southern-africa': /\b(GFCI|AFCI|receptacles?|ground(ed|ing|s)?|AWG|panels?|RCD|consumer unit|CPC|aluminum|color)\b/i,
}

/** The same word twice. */
export const doubledWord = /\b(?!that\b|had\b|[a-z]\b)([a-z]+) \1\b/i
/** A number of one with a word for several. */
export const wrongPlural =
  /(?<![\d.,/$–-])\b1 (points|outlets|circuits|ways|spaces|bends|holes|tests|steps|labels|cables|people|sections|rooms|marks|ends)\b/
/** "a" before what is said with a vowel. */
export const wrongArticle = /\ba (8\d*|11|18)\b/
