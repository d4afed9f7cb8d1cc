/** How long a stage may take to come before a field in it is given up, in milliseconds. */
const PATIENCE_MS = 4000
const STEP_MS = 60

const textOf = (e: Element): string => (e.textContent ?? '').trim()

/** The control a label or a legend belongs to. */
function controlOf(named: Element): HTMLElement | null {
  if (named instanceof HTMLLabelElement && named.control) return named.control
  return named.parentElement?.querySelector<HTMLElement>('input, select, textarea, button') ?? null
}

/** The first of the fields that is on the page; of several with one label, the one next to the drawing, of what is selected. */
function fieldOn(page: ParentNode, fields: readonly string[]): HTMLElement | null {
  const named = [...page.querySelectorAll('aside label, aside legend'), ...page.querySelectorAll('label, legend')]
  for (const field of fields) {
    const label = named.find((e) => textOf(e) === field) ?? named.find((e) => textOf(e).startsWith(field))
    const control = label ? controlOf(label) : page.querySelector<HTMLElement>(`[aria-label="${CSS.escape(field)}"]`)
    if (control) return control
  }
  return null
}

/** Pulls up the working where the field is in it and it lies folded at the foot of a phone. */
function unfold(control: HTMLElement): void {
  const aside = control.closest('aside')
  aside?.querySelector<HTMLButtonElement>(':scope > button[aria-expanded="false"]')?.click()
}

/** Puts the focus into a field of the page at `path`, as soon as it stands there. */
export function focusField(path: string, fields: readonly string[]): void {
  const until = Date.now() + PATIENCE_MS
  const look = (): void => {
    const control = window.location.pathname === path ? fieldOn(document, fields) : null
    const again = () => fields.length > 0 && Date.now() < until && setTimeout(look, STEP_MS)
    if (!control) return void again()
    unfold(control)
    requestAnimationFrame(() => {
      control.scrollIntoView({ block: 'center' })
      control.focus({ preventScroll: true })
      // What is being worked out beside it cannot be touched until then.
      if (document.activeElement !== control) again()
    })
  }
  setTimeout(look, STEP_MS)
}
