import { readAnswer } from '../folio/answers'
import type { ArchiveFile } from '../folio/archive'
import type { Folio, Question } from '../folio/model'
import { questionName } from '../folio/model'
import { addressOf } from './page'
import { shownAt } from './releases'
import { xmlFile, type XmlTree } from './xml'

/** A practice question of a cartridge. */
interface Item {
  id: string
  title: string
  text: string
  options: readonly { label: string; text: string }[]
  /** The option's label, or what is to be typed. */
  answers: readonly string[]
  hint: string
}

/**
 * The folio for other course software: an IMS Common Cartridge 1.3 with a web link to each question's place on the
 * student page, and the practice questions as a QTI 1.2.1 assessment, the version that the cartridge's profile asks for.
 * @param link of the student page; without one, there are practice questions alone
 * @param questions that are recorded, in the page's order
 * @param now ms since 1970: what is released later is not practised yet
 * @returns the cartridge's files; it is a zip of them, with the ending .imscc
 */
export function cartridgeFiles(
  folio: Folio,
  questions: readonly Question[],
  link: string,
  now = Date.now(),
): ArchiveFile[] {
  const links = link
    ? questions.map((q, i) => ({ id: `link-${i + 1}`, name: questionName(q), url: `${link}#${addressOf(q)}` }))
    : []
  // Its answers are in it: what students do not have yet is not.
  const released = questions.filter(q => shownAt(q, now).cut === 'full')
  const items = itemsOf(folio, released)
  const files: ArchiveFile[] = links.map(l => ({
    path: `links/${l.id}.xml`,
    data: xmlFile({
      webLink: {
        ...named(`${CC}/imswl_v1p3`, 'ccv1p3_imswl_v1p3.xsd'),
        title: l.name,
        url: { '@href': l.url, '@target': '_blank' },
      },
    }),
  }))
  if (items.length) files.push({ path: 'practice/assessment.xml', data: assessment(folio.title, items) })
  const resources = [
    ...links.map(l => ({ id: l.id, type: 'imswl_xmlv1p3', path: `links/${l.id}.xml`, name: l.name })),
    ...(items.length
      ? [
          {
            id: 'practice',
            type: 'imsqti_xmlv1p2/imscc_xmlv1p3/assessment',
            path: 'practice/assessment.xml',
            name: 'What to do next',
          },
        ]
      : []),
  ]
  return [{ path: 'imsmanifest.xml', data: manifest(folio.title, resources) }, ...files]
}

const CC = 'http://www.imsglobal.org/xsd/imsccv1p3'
/** Where the profile's schemas are published. */
const PROFILE = 'http://www.imsglobal.org/profile/cc/ccv1p3'
/** What an XML file is written in, and by which schema. @param more of those, by the prefix of their names */
const named = (
  space: string,
  schema: string,
  more: Readonly<Record<string, [space: string, schema: string]>> = {},
) => ({
  '@xmlns': space,
  ...Object.fromEntries(Object.entries(more).map(([prefix, [other]]) => [`@xmlns:${prefix}`, other])),
  '@xmlns:xsi': 'http://www.w3.org/2001/XMLSchema-instance',
  '@xsi:schemaLocation': [[space, schema], ...Object.values(more)]
    .map(([of, file]) => `${of} ${PROFILE}/${file}`)
    .join(' '),
})

interface Resource {
  id: string
  type: string
  path: string
  name: string
}
function manifest(title: string, resources: readonly Resource[]): string {
  const lom = 'http://ltsc.ieee.org/xsd/imsccv1p3/LOM/manifest'
  const items = resources.map(r => ({ '@identifier': `item-${r.id}`, '@identifierref': r.id, 'title': r.name }))
  return xmlFile({
    manifest: {
      '@identifier': 'folio',
      ...named(`${CC}/imscp_v1p1`, 'ccv1p3_imscp_v1p2_v1p0.xsd', {
        lomimscc: [lom, 'LOM/ccv1p3_lommanifest_v1p0.xsd'],
      }),
      'metadata': {
        'schema': 'IMS Common Cartridge',
        'schemaversion': '1.3.0',
        'lomimscc:lom': { 'lomimscc:general': { 'lomimscc:title': { 'lomimscc:string': title } } },
      },
      'organizations': {
        organization: {
          '@identifier': 'lesson',
          '@structure': 'rooted-hierarchy',
          'item': { '@identifier': 'root', 'item': { '@identifier': 'folder', title, 'item': items } },
        },
      },
      'resources': {
        resource: resources.map(r => ({ '@identifier': r.id, '@type': r.type, 'file': { '@href': r.path } })),
      },
    },
  })
}

/** What is practised: what the plan says to do next, and the options questions of the sheet themselves. */
function itemsOf(folio: Folio, questions: readonly Question[]): Item[] {
  const next = folio.plan.next.flatMap((n, i): Item[] => {
    if (!n.text.trim() || !n.answer.trim()) return []
    const expected = readAnswer(n.answer)
    const answers = expected.kind === 'number' ? [n.answer.trim(), String(expected.value)] : [n.answer.trim()]
    return [
      {
        id: `next-${i + 1}`,
        title: `Practice ${i + 1}`,
        text: n.text,
        options: [],
        answers: [...new Set(answers)],
        hint: n.hint,
      },
    ]
  })
  const chosen = questions.flatMap((q, i): Item[] => {
    const expected = readAnswer(
      q.answer,
      q.options.map(o => o.label),
    )
    if (q.options.length < 2 || expected.kind !== 'option') return []
    return [
      {
        id: `options-${i + 1}`,
        title: questionName(q),
        text: questionName(q),
        options: q.options,
        answers: [expected.label],
        hint: '',
      },
    ]
  })
  return [...next, ...chosen]
}

function assessment(title: string, items: readonly Item[]): string {
  return xmlFile({
    questestinterop: {
      ...named('http://www.imsglobal.org/xsd/ims_qtiasiv1p2', 'ccv1p3_qtiasiv1p2p1_v1p0.xsd'),
      assessment: {
        '@ident': 'practice',
        '@title': title,
        'qtimetadata': {
          qtimetadatafield: [field('qmd_assessmenttype', 'Examination'), field('cc_profile', 'cc.exam.v0p1')],
        },
        'section': { '@ident': 'root_section', 'item': items.map(itemTree) },
      },
    },
  })
}

const field = (fieldlabel: string, fieldentry: string) => ({ fieldlabel, fieldentry })
const material = (text: string) => ({ mattext: { '@texttype': 'text/plain', '#': text } })

function itemTree({ id, title, text, options, answers, hint }: Item): XmlTree {
  const choice = options.length > 0
  const asked = { '@ident': 'answer', '@rcardinality': 'Single' }
  const labels = options.map((o, i) => ({
    '@ident': `o${i + 1}`,
    'material': material(o.text.trim() ? `${o.label}  ${o.text}` : o.label),
  }))
  const right = choice ? [`o${options.findIndex(o => o.label === answers[0]) + 1}`] : answers
  return {
    '@ident': id,
    '@title': title,
    'itemmetadata': {
      qtimetadata: { qtimetadatafield: field('cc_profile', choice ? 'cc.multiple_choice.v0p1' : 'cc.fib.v0p1') },
    },
    'presentation': {
      material: material(text),
      ...(choice
        ? { response_lid: { ...asked, render_choice: { response_label: labels } } }
        : { response_str: { ...asked, render_fib: { '@prompt': 'Dashline' } } }),
    },
    'resprocessing': {
      outcomes: { decvar: { '@maxvalue': '100', '@minvalue': '0', '@varname': 'SCORE', '@vartype': 'Decimal' } },
      respcondition: right.map(value => ({
        '@continue': 'No',
        'conditionvar': { varequal: { '@respident': 'answer', ...(choice ? {} : { '@case': 'No' }), '#': value } },
        'setvar': { '@action': 'Set', '@varname': 'SCORE', '#': '100' },
      })),
    },
    ...(hint.trim()
      ? { itemfeedback: { '@ident': 'hint', 'hint': { hintmaterial: { material: material(hint) } } } }
      : {}),
  }
}
