// Shapes of the data that the server sends; see Fenster.Core for what they mean.

type Point = { x: number; y: number }
type Circle = { kind: 'circle'; centre: Point; radius: number }
type Rectangle = { kind: 'rectangle'; x: number; y: number; width: number; height: number; rotation?: number }
type Ellipse = { kind: 'ellipse'; centre: Point; radiusX: number; radiusY: number }
type Polygon = { kind: 'polygon'; vertices: Point[] }
type Region = Circle | Ellipse | Rectangle | Polygon
type Bounds = { left: number; top: number; right: number; bottom: number }

type Margins = { left: number; top: number; right: number; bottom: number }
type Picture = { media: string; width: number; height: number; altText: string; margins?: Margins; credit?: string }
type Verdict = 'right' | 'part' | 'wrong' | 'surplus' | 'unscored'
type TargetState = 'earned' | 'partEarned' | 'missed' | 'wrong' | 'waiting' | 'unscored'

type ZoneView = { id: string; region: Region; capacity: number; prompt: string; leader?: Point | null }
// What stands in the place of words; the words then describe it. Sounds and videos play from a second to a second.
type Played = { media: string; from?: number; to?: number | null }
type Face =
  | { kind: 'picture'; media: string; width: number; height: number }
  | ({ kind: 'sound' } & Played)
  | ({ kind: 'video'; width: number; height: number; captions?: string | null } & Played)
type LabelColour = 'paper' | 'honey' | 'sky' | 'leaf' | 'rose' | 'lilac'
type LabelView = {
  id: string
  text: string
  copies: number | null
  face?: Face | null
  tip?: Point | null
  colour?: LabelColour
  start?: Point | null
  isMarker?: boolean
}
type OptionView = { id: string; text: string; face: Face | null }
type Axis = { from: Point; to: Point; fromValue: number; toValue: number; kind: 'linear' | 'logarithmic' | 'date' }
type Scale = { x: Axis; y: Axis | null }
type TargetView = { id: string; prompt: string } & (
  | { kind: 'marking'; needed: number }
  | { kind: 'typing'; region: Region; isNumber: boolean; units: string[] }
  | { kind: 'choosing'; at: Point; text: string; multiple: boolean; options: OptionView[] }
  | { kind: 'answering'; at: Point; text: string; isNumber: boolean; units: string[] }
  | { kind: 'locked'; at: Point }
  | { kind: 'noting'; region: Region }
  | { kind: 'showing'; scale: Scale; byMark: boolean }
  | { kind: 'linking'; left: OptionView[]; right: OptionView[] }
  | { kind: 'sorting'; region: Region }
  | { kind: 'telling'; at: Point; text: string; face: Face | null; link: string; shows: 'onClick' | 'onHover' | 'covering' }
  | { kind: 'concealed' }
)
type SpotView = Extract<TargetView, { at: Point }>
type Placement = { label: string; copy: number; zone: string }
type Pin = { label: string; copy: number; at: Point }
type Link = { left: string; right: string }
type Done = { target: string; points: Point[]; text: string; picks: string[]; opened: boolean; inside: string; links: Link[] }
type OtherMark = { target: string; state: TargetState; points: Verdict[]; links: Verdict[] }
type OtherKey = { target: string; spots: Region[]; text: string; picks: string[]; links: Link[]; labels: string[] }
type PaneWork = {
  open: boolean
  checksLeft: number | null
  placed: Placement[]
  pins: Pin[]
  held: { label: string; copy: number }[]
  done: Done[]
  found: TargetView[]
  marks: null | { placed: (Verdict | null)[]; zones: { zone: string; state: TargetState }[]; pins: (Verdict | null)[]; others: OtherMark[] }
  feedback: null | {
    zones: { zone: string; text: string }[]
    labels: { label: string; copy: number; text: string }[]
    others: { target: string; text: string }[]
  }
  explanation: null | {
    pane: string
    zones: { zone: string; text: string }[]
    hidden: string[]
    others: { target: string; text: string }[]
  }
  key: null | { zones: { zone: string; labels: string[] }[]; hidden: { region: Region; labels: string[] }[]; others: OtherKey[] }
}
type ScoreView = { score: number; possible: number; grade: number; maximumGrade: number; passed: boolean | null; isSoFar: boolean }
type WorkView = { open: boolean; score: ScoreView | null; bandText: string | null; panes: PaneWork[] }
// Only the panes that were worked on are told.
type WorkAnswer = Omit<WorkView, 'panes'> & { panes: (PaneWork | null)[] }
type StudentView = {
  title: string
  instructions: string
  message: Face | null
  messageText: string
  purpose: 'marked' | 'learningOnly'
  panes: PaneFrame[]
  work: WorkView
}
type PaneFrame = {
  id: string
  picture: Picture | null
  zones: ZoneView[]
  labels: LabelView[]
  labelSize: 'small' | 'medium' | 'large'
  takesPins: boolean
  targets: TargetView[]
}

// A pane as the screen draws it: what stays and what changes, together.
type PaneView = PaneFrame & PaneWork
type Move =
  | { kind: 'putDown'; label: string; copy: number; zone: string }
  | { kind: 'pinDown'; label: string; copy: number; at: Point }
  | { kind: 'takeBack'; label: string; copy: number }
  | { kind: 'markPoints'; target: string; points: Point[] }
  | { kind: 'typeText'; target: string; text: string }
  | { kind: 'pickOptions'; target: string; options: string[] }
  | { kind: 'drawLinks'; target: string; links: Link[] }
  | { kind: 'tryCode'; target: string; code: string }
  | { kind: 'openSpot'; target: string }
  | { kind: 'lookAt'; at: Point }
  | { kind: 'pressCheck' }
type MoveSent = { key: string; pane: string; move: Move }

// The activity document, as far as the workbench edits it. Fields that it does not know stay as they are.
type LabelPart = {
  id: string
  text: string
  copies?: number | null
  face?: Face | null
  colour?: LabelColour
  value?: number | null
  tip?: Point | null
  start?: Point | null
  feedback?: string
}
type Tolerance = { slack: number; bands?: { slack: number; credit: number }[] }
type TargetBase = { id: string; prompt?: string; points?: number; feedback?: { right?: string; wrong?: string }; explanation?: string }
type ZonePart = TargetBase & {
  kind: 'dropZone' | 'hiddenZone'
  region: Region
  accepts: { label: string; credit?: number }[]
  capacity?: number
  group?: string | null
  tolerance?: Tolerance
  leader?: Point | null
}
type HotspotsPart = TargetBase & { kind: 'hotspots'; needed: number; spots: { region: Region; tolerance?: Tolerance }[] }
type BoxPart = TargetBase & { kind: 'answerBox'; region: Region; answer: any }
type NotePart = TargetBase & { kind: 'openNote'; region: Region }
type QuestionPart = TargetBase & { kind: 'questionPoint'; at: Point; question: any }
type ScalePart = TargetBase & { kind: 'scalePoint'; scale: Scale; x: number; y?: number; label: string | null; within?: Tolerance }
type Want =
  | { kind: 'set'; labels: string[] }
  | { kind: 'count'; labels: string[]; is: 'exactly' | 'atLeast' | 'atMost'; number: number }
  | { kind: 'total'; from: number; to: number }
type SortPart = TargetBase & { kind: 'sortRegion'; region: Region; want: Want }
type InfoPart = TargetBase & {
  kind: 'infoSpot'
  at: Point
  text: string
  face?: Face | null
  link?: string
  shows?: 'onClick' | 'onHover' | 'covering'
  concealed?: boolean
  reach?: number
}
type LockPart = TargetBase & { kind: 'lock'; at: Point; code: any; inside?: string; opens?: string[]; scored?: boolean }
type MatchingPart = TargetBase & {
  kind: 'matching'
  left: { id: string; text: string; face?: Face | null }[]
  right: { id: string; text: string; face?: Face | null }[]
  pairs: Link[]
  descriptions?: 'teachers' | 'students' | null
}
type TargetPart = ZonePart | HotspotsPart | BoxPart | NotePart | QuestionPart | ScalePart | SortPart | InfoPart | LockPart | MatchingPart
type RulesPart = { check?: Record<string, any>; reveal?: Record<string, any>; score?: Record<string, any> }
type PanePart = {
  id: string
  picture: Picture | null
  labels: LabelPart[]
  targets: TargetPart[]
  scale?: Scale | null
  rules?: RulesPart | null
  bankOrder?: string
  labelSize?: string
  weight?: number
  explanation?: string
}
type ActivityDocument = {
  title: string
  instructions: string
  panes: PanePart[]
  rules?: RulesPart
  privateName?: string
  description?: string
  keywords?: string[]
  language?: string
  direction?: string
  isStarter?: boolean
  purpose?: string
  paneOrder?: string
  message?: Face | null
  messageText?: string
  scoreBands?: { from: number; text: string }[]
}

type AlpineTools = {
  evaluateLater(expression: string): (then: (value: any) => void) => void
  effect(run: () => void): void
  cleanup(run: () => void): void
}
declare const Alpine: {
  data(name: string, make: () => object): void
  directive(name: string, run: (element: any, directive: { expression: string }, tools: AlpineTools) => void): void
  start(): void
}
