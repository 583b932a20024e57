import { MATHML_ELEMENTS } from '#core/maths'

const MATHML = 'http://www.w3.org/1998/Math/MathML'

/** MathML as elements of the page: known elements and their text, no attributes. @returns null when it is not MathML */
export function spokenMaths(mathml: string): Element | null {
  const parsed = new DOMParser().parseFromString(mathml, 'application/xml').documentElement
  return parsed.localName === 'math' ? copy(parsed) : null
}

function copy(from: Element): Element | null {
  if (!MATHML_ELEMENTS.has(from.localName)) return null
  const to = document.createElementNS(MATHML, from.localName)
  for (const child of from.childNodes) {
    if (child.nodeType === Node.TEXT_NODE) to.append(child.textContent ?? '')
    else if (child instanceof Element) to.append(copy(child) ?? '')
  }
  return to
}
