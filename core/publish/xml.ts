import { XMLBuilder } from 'fast-xml-parser'
import { noControls } from './names'

/** An element's content: text, or attributes (`@name`), text beside them (`#`) and elements by their names, in order. */
export type XmlTree = string | { [name: string]: XmlTree | readonly XmlTree[] }

const builder = new XMLBuilder({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  textNodeName: '#',
  format: true,
  suppressEmptyNode: true,
  // A title may say “true”.
  suppressBooleanAttributes: false,
  tagValueProcessor: (_, text) => noControls(String(text)),
  attributeValueProcessor: (_, text) => noControls(String(text)),
})

/** An XML file of one element; what is text is escaped, and has no characters that XML forbids. */
export const xmlFile = (tree: { [root: string]: XmlTree }): string =>
  `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build(tree)}`
