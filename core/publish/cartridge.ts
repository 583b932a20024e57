import { readAnswer } from '../folio/answers'
import type { ArchiveFile } from '../folio/archive'
import type { Folio, Question } from '../folio/model'
import { questionName } from '../folio/model'
import { escapeHtml as x } from './names'

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
 * @returns the cartridge's files; it is a zip of them, with the ending .imscc
 */
export function cartridgeFiles(folio: Folio, questions: readonly Question[], link: string): ArchiveFile[] {
  const links = link
    ? questions.map((q, i) => ({ id: `link-${i + 1}`, name: questionName(q), url: `${link}#q${i + 1}` }))
    : []
  const items = itemsOf(folio, questions)
  const files: ArchiveFile[] = links.map(l => ({
    path: `links/${l.id}.xml`,
    data: `${HEAD}<webLink ${named(`${CC}/imswl_v1p3`, 'ccv1p3_imswl_v1p3.xsd')}"><title>${x(l.name)}</title><url href="${x(l.url)}" target="_blank"/></webLink>`,
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

const XSI = 'xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance"'
const CC = 'http://www.imsglobal.org/xsd/imsccv1p3'
/** Where the profile's schemas are published. */
const PROFILE = 'http://www.imsglobal.org/profile/cc/ccv1p3'
/** What an XML file is written in, and by which schema. */
const named = (space: string, schema: string, more = '') =>
  `xmlns="${space}"${more} ${XSI} xsi:schemaLocation="${space} ${PROFILE}/${schema}`
const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n'

interface Resource {
  id: string
  type: string
  path: string
  name: string
}
function manifest(title: string, resources: readonly Resource[]): string {
  const lom = 'http://ltsc.ieee.org/xsd/imsccv1p3/LOM/manifest'
  const space = named(`${CC}/imscp_v1p1`, 'ccv1p3_imscp_v1p2_v1p0.xsd', ` xmlns:lomimscc="${lom}"`)
  return `${HEAD}<manifest identifier="folio" ${space} ${lom} ${PROFILE}/LOM/ccv1p3_lommanifest_v1p0.xsd">
<metadata><schema>IMS Common Cartridge</schema><schemaversion>1.3.0</schemaversion><lomimscc:lom><lomimscc:general><lomimscc:title><lomimscc:string>${x(title)}</lomimscc:string></lomimscc:title></lomimscc:general></lomimscc:lom></metadata>
<organizations><organization identifier="lesson" structure="rooted-hierarchy"><item identifier="root"><item identifier="folder"><title>${x(title)}</title>${resources.map(r => `<item identifier="item-${r.id}" identifierref="${r.id}"><title>${x(r.name)}</title></item>`).join('')}</item></item></organization></organizations>
<resources>${resources.map(r => `<resource identifier="${r.id}" type="${r.type}"><file href="${r.path}"/></resource>`).join('')}</resources>
</manifest>
`
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
  const space = named('http://www.imsglobal.org/xsd/ims_qtiasiv1p2', 'ccv1p3_qtiasiv1p2p1_v1p0.xsd')
  const profile = field('qmd_assessmenttype', 'Examination') + field('cc_profile', 'cc.exam.v0p1')
  return `${HEAD}<questestinterop ${space}"><assessment ident="practice" title="${x(title)}"><qtimetadata>${profile}</qtimetadata><section ident="root_section">${items.map(item).join('')}</section></assessment></questestinterop>
`
}

const field = (label: string, entry: string) =>
  `<qtimetadatafield><fieldlabel>${label}</fieldlabel><fieldentry>${entry}</fieldentry></qtimetadatafield>`
const material = (text: string) => `<material><mattext texttype="text/plain">${x(text)}</mattext></material>`

function item({ id, title, text, options, answers, hint }: Item): string {
  const choice = options.length > 0
  const kind = choice ? 'cc.multiple_choice.v0p1' : 'cc.fib.v0p1'
  const response = choice
    ? `<response_lid ident="answer" rcardinality="Single"><render_choice>${options.map((o, i) => `<response_label ident="o${i + 1}">${material(o.text.trim() ? `${o.label}  ${o.text}` : o.label)}</response_label>`).join('')}</render_choice></response_lid>`
    : `<response_str ident="answer" rcardinality="Single"><render_fib prompt="Dashline"/></response_str>`
  const right = choice ? [`o${options.findIndex(o => o.label === answers[0]) + 1}`] : answers
  const scored = right
    .map(
      value =>
        `<respcondition continue="No"><conditionvar><varequal respident="answer"${choice ? '' : ' case="No"'}>${x(value)}</varequal></conditionvar><setvar action="Set" varname="SCORE">100</setvar></respcondition>`,
    )
    .join('')
  const feedback = hint.trim()
    ? `<itemfeedback ident="hint"><hint><hintmaterial>${material(hint)}</hintmaterial></hint></itemfeedback>`
    : ''
  return `<item ident="${id}" title="${x(title)}"><itemmetadata><qtimetadata>${field('cc_profile', kind)}</qtimetadata></itemmetadata><presentation>${material(text)}${response}</presentation><resprocessing><outcomes><decvar maxvalue="100" minvalue="0" varname="SCORE" vartype="Decimal"/></outcomes>${scored}</resprocessing>${feedback}</item>`
}
