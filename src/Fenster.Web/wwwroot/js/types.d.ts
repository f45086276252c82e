// The browser's names for what passes between it and the server (contract.d.ts), and what it adds to that.

type Point = Sent.Point
type Circle = Sent.Circle
type Rectangle = Sent.Rectangle
type Ellipse = Sent.Ellipse
type Polygon = Sent.Polygon
type Region = Sent.Region
type Bounds = Sent.Bounds
type Margins = Sent.Margins
type Face = Sent.Face
type Played = Omit<Sent.SoundFace, 'kind'>
type LabelColour = Sent.LabelColour
type Axis = Sent.Axis
type Scale = Sent.Scale
type Link = Sent.Link
type Move = Sent.Move
type Want = Sent.Want

// What a student's screen is given.
type Verdict = Sent.Verdict
type TargetState = Sent.TargetState
type StudentView = Sent.StudentView
type WorkView = Sent.WorkView
type ZoneView = Sent.ZoneView
type OptionView = Sent.OptionView
type TargetView = Sent.TargetView
type SpotView = Extract<TargetView, { at: Point }>
type Placement = Sent.Placement
type Pin = Sent.Pin
type Done = Sent.DoneView
type OtherMark = Sent.OtherMarkView
type OtherKey = Sent.OtherKeyView
type PaneFrame = Sent.PaneView
// The server leaves out what is empty where it names it so; on a screen all of it is there.
type OwnSpot = Required<Sent.OwnSpot>
type OwnWork = { picture: Required<Sent.OwnImage> | null; spots: OwnSpot[] }
type PaneWork = Sent.PaneWorkView
type ScoreView = Sent.ScoreView
// A label, or what is put down like one though it is none: a mark for each spot that is to be found.
type LabelView = Pick<Sent.LabelView, 'id' | 'text' | 'copies'> & Partial<Sent.LabelView> & { isMarker?: boolean }
// Only the panes that were worked on are told.
type WorkAnswer = Omit<WorkView, 'panes'> & { panes: (PaneWork | null)[] }
// A pane as the screen draws it: what stays and what changes, together.
type PaneView = PaneFrame & PaneWork
// `seen` is the version of the log that the device had seen.
type MoveSent = { key: string; pane: string; move: Move; seen: number }

// The activity document. The server writes it whole; the workbench leaves out what is usual, and fields that it does not know stay as
// they are.
type Picture = Sent.Picture & { altText: string }
type LabelPart = Sent.Label
type ZonePart = (Sent.DropZone | Sent.HiddenZone) & { accepts: Sent.Accepted[]; tolerance?: Sent.Tolerance; leader?: Point | null }
type BoxPart = Omit<Sent.AnswerBox, 'answer'> & { answer: any }
type QuestionPart = Omit<Sent.QuestionPoint, 'question'> & { question: any }
type ScalePart = Sent.ScalePoint & { label: string | null }
type EditedPart = ZonePart | BoxPart | QuestionPart | ScalePart
type Tolerance = Sent.Tolerance
type TargetPart = EditedPart | Exclude<Sent.Target, { kind: EditedPart['kind'] }>
type PartOf<Kind extends TargetPart['kind']> = Extract<TargetPart, { kind: Kind }>
type RulesPart = { check?: Record<string, any>; reveal?: Record<string, any>; score?: Record<string, any> }
// What is chosen from a list of words is as good as typed here: the server says what it does not know.
type Chosen = { bankOrder?: string; labelSize?: string }
type PanePart = Omit<Sent.Pane, 'picture' | 'labels' | 'targets' | 'rules' | keyof Chosen> &
  Chosen & {
    picture: Picture | null
    labels: LabelPart[]
    targets: TargetPart[]
    rules?: RulesPart | null
  }
type ActivityDocument = Omit<Sent.Activity, 'instructions' | 'panes' | 'rules' | 'purpose' | 'paneOrder'> & {
  instructions: string
  panes: PanePart[]
  rules?: RulesPart
  purpose?: string
  paneOrder?: string
}

type AlpineTools = {
  evaluateLater(expression: string): (then: (value: any) => void) => void
  effect(run: () => void): void
  cleanup(run: () => void): void
}
/** What a device may see, and what it is to keep. */
type StudentAnswer = { headers: Headers; html: Promise<string> }

interface Window {
  /** What a student's page asked first. */
  fensterFirst: { query: string; answer: Promise<StudentAnswer> }
}

declare const Alpine: {
  data(name: string, make: () => object): void
  directive(name: string, run: (element: any, directive: { expression: string }, tools: AlpineTools) => void): void
  start(): void
}
