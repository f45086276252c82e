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
type TargetState = 'earned' | 'partEarned' | 'missed' | 'wrong'

type ZoneView = { id: string; region: Region; capacity: number }
// What stands in the place of a label's words; the words then describe it.
type Face = { kind: 'picture'; media: string; width: number; height: number } | { kind: 'sound'; media: string }
type LabelView = { id: string; text: string; copies: number | null; face?: Face | null }
type Placement = { label: string; copy: number; zone: string }
type PaneWork = {
  open: boolean
  checksLeft: number | null
  placed: Placement[]
  held: { label: string; copy: number }[]
  marks: null | { placed: (Verdict | null)[]; zones: { zone: string; state: TargetState }[] }
  feedback: null | { zones: { zone: string; text: string }[]; labels: { label: string; copy: number; text: string }[] }
  explanation: null | { pane: string; zones: { zone: string; text: string }[] }
  key: null | { zones: { zone: string; labels: string[] }[] }
}
type ScoreView = { score: number; possible: number; grade: number; maximumGrade: number; passed: boolean | null }
type WorkView = { open: boolean; score: ScoreView | null; bandText: string | null; panes: PaneWork[] }
type StudentView = { title: string; instructions: string; panes: PaneFrame[]; work: WorkView }
type PaneFrame = { id: string; picture: Picture; zones: ZoneView[]; labels: LabelView[] }

// A pane as the screen draws it: what stays and what changes, together.
type PaneView = PaneFrame & PaneWork
type Move = { kind: 'putDown'; label: string; copy: number; zone: string } | { kind: 'takeBack'; label: string; copy: number } | { kind: 'pressCheck' }
type MoveSent = { key: string; pane: string; move: Move }

// The activity document, as far as the workbench edits it. Fields that it does not know stay as they are.
type LabelPart = { id: string; text: string; copies?: number | null; face?: Face | null }
type ZonePart = { kind: 'dropZone'; id: string; region: Region; accepts: { label: string; credit?: number }[] }
type PanePart = { id: string; picture: Picture | null; labels: LabelPart[]; targets: ZonePart[] }
type ActivityDocument = { title: string; instructions: string; panes: PanePart[] }

declare const Alpine: { data(name: string, make: () => object): void; start(): void }
