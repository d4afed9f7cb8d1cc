/** What a job can be handed over as: each paper by the name of its file, what it is called and what it holds. */
export const papers = [
  {
    file: 'pack.pdf',
    name: 'Handover pack',
    about: 'Everything that is kept, in one document: a summary, what was done and why, drawings, tests, photographs, what to watch for.',
  },
  {
    file: 'archive.zip',
    name: 'Archive',
    about: 'The pack, every paper, tables, drawings, photographs, the job and its history in one file that opens without a program.',
  },
  {
    file: 'certificate.pdf',
    name: 'Certificate entries',
    about: 'What the rules ask to be recorded of each circuit, filled from the record; what is missing is listed.',
  },
  {
    file: 'record.pdf',
    name: 'Record',
    about: 'What was asked, done and measured, with the drawings and every working; for the customer and the next electrician.',
  },
  { file: 'design.pdf', name: 'Design sheets', about: 'Every figure with its formula and numbers, for an inspector to check by hand.' },
  { file: 'wiring.pdf', name: 'Wiring sheets', about: 'One page a circuit, to stick up at the work and leave behind.' },
  { file: 'boxes.pdf', name: 'Boxes, opened', about: 'A page a box: every conductor where it ends, to stick up while terminating.' },
  {
    file: 'template.pdf',
    name: 'Templates to cut by',
    about: 'The outline of each box at its real size, with a level line and a rule to check the printer by.',
  },
  { file: 'bending.pdf', name: 'Bending', about: 'Every bent pipe to scale, with each mark from the end of its piece.' },
  { file: 'netlist.cir', name: 'Wiring as a netlist', about: 'The whole wiring as open text, for any circuit simulator.' },
  { file: 'route.pdf', name: 'Routes through the building', about: 'Plan, walls with every hole, steps in working order and what is cut.' },
  { file: 'building.dxf', name: 'Building, DXF', about: 'Plans and walls with the routes in them, in millimetres, for a drawing program.' },
  { file: 'trace.pdf', name: 'Circuit map', about: 'What feeds what, on one page for the board’s door.' },
  { file: 'trace.svg', name: 'Circuit map, SVG', about: 'The same drawing, for another program.' },
  {
    file: 'door.pdf',
    name: 'Circuit chart',
    about: 'Each board by position: the label found there and what it was proved to feed.',
  },
  { file: 'reply.pdf', name: 'Reply to the report', about: 'Each finding of an inspection report, and what is done about it.' },
  { file: 'day.pdf', name: 'The day', about: 'Who does what when, what is switched off, and what is needed: one paper for the van.' },
  { file: 'day.ics', name: 'The day, calendar', about: 'Each task and each outage as an entry; for any calendar.' },
  { file: 'needed.csv', name: 'Materials, CSV', about: 'Material counted from the design, with its price where one is known.' },
  { file: 'offer.pdf', name: 'Quotation', about: 'Work, materials, markup and tax, for the customer.' },
  { file: 'labels.pdf', name: 'Labels, PDF', about: 'At real size, to cut out.' },
  { file: 'labels.svg', name: 'Labels, SVG', about: 'At real size, for a label maker or a cutter.' },
  {
    file: 'photographs.pdf',
    name: 'Photographs',
    about: 'Every photograph, by what it shows, with what was said of it, when and by whom.',
  },
  { file: 'readings.csv', name: 'Readings, CSV', about: 'Every reading ever taken, corrections too.' },
  {
    file: 'file.json',
    name: 'Job file',
    about: 'The whole job but its photographs, in an open format; drop it on the jobs page to bring it in elsewhere.',
  },
] as const
export type PaperFile = (typeof papers)[number]['file']

interface OfJob {
  readonly defects: number
  readonly photographs: number
  readonly measuredRooms: boolean
  readonly bent: boolean
}
/** The papers that say anything of a job. */
export const papersFor = ({ defects, photographs, measuredRooms, bent }: OfJob) =>
  papers.filter(
    ({ file }) =>
      (file !== 'reply.pdf' || defects > 0) &&
      (file !== 'photographs.pdf' || photographs > 0) &&
      (file !== 'building.dxf' || measuredRooms) &&
      (file !== 'bending.pdf' || bent),
  )
