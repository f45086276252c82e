// Written by ./fenster contract from the types of Fenster.Core: change those. What may be left out in a document is optional.

declare namespace Sent {
type Accepted = {
  label: string
  credit?: number
}

type Activity = {
  title: string
  privateName?: string
  description?: string
  isStarter?: boolean
  keywords?: string[]
  instructions?: string
  message?: Face | null
  messageText?: string
  language?: string
  direction?: WritingDirection
  panes?: Pane[]
  paneOrder?: PaneOrder
  purpose?: Purpose
  rules?: Rules
  screen?: Screen
  scoreBands?: ScoreBand[]
}

type Aid = 'calculator' | 'ruler' | 'magnifier'

type AnswerBox = {
  kind: 'answerBox'
  region: Region
  answer: TypedAnswer
  id: string
  points?: number
  prompt?: string
  feedback?: Feedback
  explanation?: string
  compulsory?: boolean
  takenOut?: TakenOut | null
}

type AnsweringView = {
  kind: 'answering'
  at: Point
  text: string
  isNumber: boolean
  units: string[]
  id: string
  prompt: string
  compulsory: boolean
}

type Axis = {
  from: Point
  to: Point
  fromValue: number
  toValue: number
  kind?: AxisKind
}

type AxisKind = 'linear' | 'logarithmic' | 'date'

type Band = {
  slack: number
  credit: number
}

type BankOrder = 'shuffled' | 'asListed' | 'alphabetical'

type BoardPane = {
  frame: PaneView
  work: PaneWorkView
  spots: BoardSpot[]
  described: DescribedView[]
}

type BoardSpot = {
  id: string
  name: string | null
  asks: string
  at: Point | null
  isSeen: boolean
  points: number
  placed: Placement[]
  pins: Pin[]
  links: Link[]
  item: string | null
  done: DoneView | null
  found: TargetView[]
  hidden: HiddenKeyView | null
  key: OtherKeyView | null
  explanation: string
}

type BoardView = {
  panes: BoardPane[]
}

type Bounds = {
  left: number
  top: number
  right: number
  bottom: number
}

type BoxFixing = {
  kind: 'box'
  x: number
  y: number
  width: number
  height: number
  colour: string
}

type BringPicture = {
  kind: 'bringPicture'
  target: string
  picture: OwnImage | null
}

type CaptionFixing = {
  kind: 'caption'
  at: Point
  text: string
  size: number
  colour: string
}

type CheckRules = {
  checks?: number | null
  wrong?: WrongLabels
  right?: RightLabels
}

type ChoiceQuestion = {
  kind: 'choice'
  options: Option[]
  multiple?: boolean
  text: string
}

type ChoosingView = {
  kind: 'choosing'
  at: Point
  text: string
  multiple: boolean
  options: OptionView[]
  id: string
  prompt: string
  compulsory: boolean
}

type Circle = {
  kind: 'circle'
  centre: Point
  radius: number
}

type ConcealedView = {
  kind: 'concealed'
  id: string
  prompt: string
  compulsory: boolean
}

type CountIs = 'exactly' | 'atLeast' | 'atMost'

type CoverFixing = {
  kind: 'cover'
  x: number
  y: number
  width: number
  height: number
  colour: string
}

type Criterion = {
  text: string
  points: number
}

type DescribedView = {
  label: string
  text: string
}

type DescriptionFor = 'teachers' | 'students'

type DoneView = {
  target: string
  points: Point[]
  text: string
  picks: string[]
  opened: boolean
  inside: string
  links: Link[]
  own: OwnWork | null
  lacks: SaidView[]
}

type DrawLinks = {
  kind: 'drawLinks'
  target: string
  links: Link[]
}

type DropZone = {
  kind: 'dropZone'
  leader?: Point | null
  region: Region
  accepts?: Accepted[]
  capacity?: number
  group?: string | null
  id: string
  points?: number
  prompt?: string
  feedback?: Feedback
  explanation?: string
  compulsory?: boolean
  takenOut?: TakenOut | null
}

type Ellipse = {
  kind: 'ellipse'
  centre: Point
  radiusX: number
  radiusY: number
}

type ExplanationView = {
  pane: string
  zones: ZoneTextView[]
  hidden: string[]
  others: OtherTextView[]
}

type Face = PictureFace | SoundFace | VideoFace

type Feedback = {
  right?: string
  wrong?: string
}

type FeedbackView = {
  zones: ZoneTextView[]
  labels: LabelTextView[]
  others: OtherTextView[]
  remarks: RemarkView[]
}

type Fixing = CoverFixing | BoxFixing | LineFixing | CaptionFixing

type HeldView = {
  label: string
  copy: number
}

type HiddenKeyView = {
  region: Region
  labels: string[]
}

type HiddenZone = {
  kind: 'hiddenZone'
  tolerance?: Tolerance
  region: Region
  accepts?: Accepted[]
  capacity?: number
  group?: string | null
  id: string
  points?: number
  prompt?: string
  feedback?: Feedback
  explanation?: string
  compulsory?: boolean
  takenOut?: TakenOut | null
}

type Hotspots = {
  kind: 'hotspots'
  spots: Spot[]
  needed: number
  id: string
  points?: number
  prompt?: string
  feedback?: Feedback
  explanation?: string
  compulsory?: boolean
  takenOut?: TakenOut | null
}

type InfoSpot = {
  kind: 'infoSpot'
  at: Point
  text: string
  face?: Face | null
  link?: string
  shows?: Showing
  concealed?: boolean
  reach?: number
  id: string
  points?: number
  prompt?: string
  feedback?: Feedback
  explanation?: string
  compulsory?: boolean
  takenOut?: TakenOut | null
}

type KeyView = {
  zones: ZoneKeyView[]
  hidden: HiddenKeyView[]
  others: OtherKeyView[]
  described: DescribedView[]
}

type Label = {
  id: string
  text: string
  face?: Face | null
  description?: DescriptionFor | null
  colour?: LabelColour
  start?: Point | null
  copies?: number | null
  value?: number | null
  tip?: PinTip | null
  feedback?: string
}

type LabelColour = 'paper' | 'honey' | 'sky' | 'leaf' | 'rose' | 'lilac'

type LabelSize = 'small' | 'medium' | 'large'

type LabelTextView = {
  label: string
  copy: number
  text: string
}

type LabelView = {
  id: string
  text: string
  number: number | null
  copies: number | null
  face: Face | null
  tip: PinTip | null
  colour: LabelColour
  start: Point | null
}

type Leaving = 'askedOnce' | 'askedTwice' | 'notPossible'

type LineFixing = {
  kind: 'line'
  from: Point
  to: Point
  isArrow: boolean
  colour: string
}

type Link = {
  left: string
  right: string
}

type LinkingView = {
  kind: 'linking'
  left: OptionView[]
  right: OptionView[]
  id: string
  prompt: string
  compulsory: boolean
}

type Lock = {
  kind: 'lock'
  at: Point
  code: TypedText
  scored?: boolean
  inside?: string
  opens?: string[]
  id: string
  points?: number
  prompt?: string
  feedback?: Feedback
  explanation?: string
  compulsory?: boolean
  takenOut?: TakenOut | null
}

type LockedView = {
  kind: 'locked'
  at: Point
  id: string
  prompt: string
  compulsory: boolean
}

type LookAt = {
  kind: 'lookAt'
  at: Point
}

type MakingView = {
  kind: 'making'
  whose: PictureFrom
  questions: string[]
  fewest: number
  needsSources: boolean
  criteria: Criterion[]
  lacks: SaidView[]
  id: string
  prompt: string
  compulsory: boolean
}

type Margins = {
  left: number
  top: number
  right: number
  bottom: number
}

type MarkPoints = {
  kind: 'markPoints'
  target: string
  points: Point[]
}

type MarkingView = {
  kind: 'marking'
  needed: number
  id: string
  prompt: string
  compulsory: boolean
}

type MarksView = {
  placed: (Verdict | null)[]
  zones: ZoneMarkView[]
  pins: (Verdict | null)[]
  others: OtherMarkView[]
}

type MatchItem = {
  id: string
  text: string
  face?: Face | null
}

type Matching = {
  kind: 'matching'
  left: MatchItem[]
  right: MatchItem[]
  pairs: Link[]
  descriptions?: DescriptionFor | null
  id: string
  points?: number
  prompt?: string
  feedback?: Feedback
  explanation?: string
  compulsory?: boolean
  takenOut?: TakenOut | null
}

type MeasureUnit = {
  name: string
  factor: number
}

type Moment = 'placed' | 'checked' | 'lastTry' | 'handedIn' | 'closed' | 'released' | 'never'

type Move = PutDown | TakeBack | PinDown | MarkPoints | TypeText | PickOptions | DrawLinks | TryCode | OpenSpot | LookAt | BringPicture | PutSpot | TakeSpot | PressCheck | Typing

type NotingView = {
  kind: 'noting'
  region: Region
  pins: number
  id: string
  prompt: string
  compulsory: boolean
}

type OpenNote = {
  kind: 'openNote'
  region: Region
  pins?: number
  criteria?: Criterion[]
  id: string
  points?: number
  prompt?: string
  feedback?: Feedback
  explanation?: string
  compulsory?: boolean
  takenOut?: TakenOut | null
}

type OpenSpot = {
  kind: 'openSpot'
  target: string
}

type Option = {
  id: string
  text: string
  isRight?: boolean
  feedback?: string
}

type OptionView = {
  id: string
  text: string
  face: Face | null
  number: number | null
}

type OtherKeyView = {
  target: string
  spots: Region[]
  text: string
  picks: string[]
  links: Link[]
  labels: string[]
  amount: SaidView | null
}

type OtherMarkView = {
  target: string
  state: TargetState
  points: Verdict[]
  links: Verdict[]
}

type OtherTextView = {
  target: string
  text: string
}

type OwnImage = {
  media: string
  width: number
  height: number
  altText?: string
}

type OwnPicture = {
  kind: 'ownPicture'
  whose?: PictureFrom
  questions?: string[]
  fewest?: number
  needsSources?: boolean
  criteria?: Criterion[]
  id: string
  points?: number
  prompt?: string
  feedback?: Feedback
  explanation?: string
  compulsory?: boolean
  takenOut?: TakenOut | null
}

type OwnSpot = {
  id: string
  at: Point
  question?: number | null
  title?: string
  text?: string
  face?: Face | null
  link?: string
  source?: string
}

type OwnWork = {
  picture: OwnImage | null
  spots: OwnSpot[]
}

type Pane = {
  id: string
  picture?: Picture | null
  labels?: Label[]
  targets?: Target[]
  bankOrder?: BankOrder
  labelSize?: LabelSize
  scale?: Scale | null
  rules?: Partial<Rules> | null
  weight?: number
  explanation?: string
}

type PaneOrder = 'asListed' | 'shuffled'

type PaneView = {
  id: string
  picture: PictureView | null
  zones: ZoneView[]
  labels: LabelView[]
  labelSize: LabelSize
  takesPins: boolean
  targets: TargetView[]
}

type PaneWorkView = {
  open: boolean
  checksLeft: number | null
  placed: Placement[]
  pins: Pin[]
  held: HeldView[]
  done: DoneView[]
  found: TargetView[]
  marks: MarksView | null
  feedback: FeedbackView | null
  key: KeyView | null
  explanation: ExplanationView | null
}

type PickOptions = {
  kind: 'pickOptions'
  target: string
  options: string[]
}

type Picture = {
  media: string
  width: number
  height: number
  altText?: string
  margins?: Margins
  preparation?: Preparation | null
  credit?: string
}

type PictureFace = {
  kind: 'picture'
  width: number
  height: number
  media: string
}

type PictureFrom = 'student' | 'teacher'

type PictureView = {
  media: string
  width: number
  height: number
  altText: string
  margins: Margins
  credit: string
}

type Pin = {
  label: string
  copy: number
  at: Point
}

type PinDown = {
  kind: 'pinDown'
  label: string
  copy: number
  at: Point
}

type PinTip = {
  x: number
  y: number
}

type Placement = {
  label: string
  copy: number
  zone: string
}

type Point = {
  x: number
  y: number
}

type Polygon = {
  kind: 'polygon'
  vertices: Point[]
}

type Preparation = {
  source: string
  sourceWidth: number
  sourceHeight: number
  turn?: number
  crop?: Bounds | null
  paper?: string
  fixings?: Fixing[]
}

type PressCheck = {
  kind: 'pressCheck'
}

type Purpose = 'marked' | 'learningOnly'

type PutDown = {
  kind: 'putDown'
  label: string
  copy: number
  zone: string
}

type PutSpot = {
  kind: 'putSpot'
  target: string
  spot: OwnSpot
}

type Question = ChoiceQuestion | TypedQuestion

type QuestionPoint = {
  kind: 'questionPoint'
  at: Point
  question: Question
  id: string
  points?: number
  prompt?: string
  feedback?: Feedback
  explanation?: string
  compulsory?: boolean
  takenOut?: TakenOut | null
}

type Rectangle = {
  kind: 'rectangle'
  x: number
  y: number
  width: number
  height: number
  rotation?: number
}

type Region = Ellipse | Polygon | Circle | Rectangle

type RemarkView = {
  target: string | null
  at: Point | null
  text: string
}

type RevealRules = {
  marks?: Moment
  score?: Moment
  feedback?: Moment
  key?: Moment
  explanation?: Moment
}

type RightLabels = 'mayMove' | 'heldFast'

type Rules = {
  check?: CheckRules
  reveal?: RevealRules
  score?: ScoreRules
}

type SaidView = {
  name: string
  slots: Record<string, number>
}

type Scale = {
  x: Axis
  y?: Axis | null
}

type ScalePoint = {
  kind: 'scalePoint'
  scale: Scale
  x: number
  y?: number
  within?: Tolerance
  label?: string | null
  showsValue?: boolean
  id: string
  points?: number
  prompt?: string
  feedback?: Feedback
  explanation?: string
  compulsory?: boolean
  takenOut?: TakenOut | null
}

type ScoreBand = {
  from: number
  text: string
}

type ScoreManner = 'eachOnItsOwn' | 'allOrNothing'

type ScoreRules = {
  manner?: ScoreManner
  wrongCost?: number
  tryCost?: number
  maximumGrade?: number | null
  passMark?: number | null
}

type ScoreView = {
  score: number
  possible: number
  grade: number
  maximumGrade: number
  passed: boolean | null
  isSoFar: boolean
}

type Screen = {
  beginsSingly?: boolean
  cheers?: boolean
  aids?: Aid[]
  leaving?: Leaving
}

type Showing = 'onClick' | 'onHover' | 'covering'

type ShowingView = {
  kind: 'showing'
  scale: Scale
  byMark: boolean
  showsValue: boolean
  id: string
  prompt: string
  compulsory: boolean
}

type SortRegion = {
  kind: 'sortRegion'
  region: Region
  want: Want
  showsTally?: boolean
  id: string
  points?: number
  prompt?: string
  feedback?: Feedback
  explanation?: string
  compulsory?: boolean
  takenOut?: TakenOut | null
}

type SortingView = {
  kind: 'sorting'
  region: Region
  tally: TallyView | null
  id: string
  prompt: string
  compulsory: boolean
}

type SoundFace = {
  kind: 'sound'
  from?: number
  to?: number | null
  media: string
}

type Spelling = {
  text: string
  credit?: number
}

type SpellingRules = {
  ignoreCapitals?: boolean
  ignoreAccents?: boolean
  ignorePunctuation?: boolean
  forgiveSlips?: boolean
}

type Spot = {
  region: Region
  tolerance?: Tolerance
}

type StudentView = {
  title: string
  instructions: string
  language: string
  direction: WritingDirection
  message: Face | null
  messageText: string
  purpose: Purpose
  screen: Screen
  panes: PaneView[]
  work: WorkView
}

type TakeBack = {
  kind: 'takeBack'
  label: string
  copy: number
}

type TakeSpot = {
  kind: 'takeSpot'
  target: string
  spot: string
}

type TakenOut = 'nobody' | 'everybody'

type TallyView = {
  values: ValueView[]
}

type Target = OwnPicture | DropZone | HiddenZone | Hotspots | AnswerBox | QuestionPoint | Lock | OpenNote | ScalePoint | Matching | SortRegion | InfoSpot

type TargetState = 'earned' | 'partEarned' | 'missed' | 'wrong' | 'waiting' | 'unscored'

type TargetView = MarkingView | TypingView | ChoosingView | AnsweringView | LockedView | NotingView | MakingView | ShowingView | LinkingView | SortingView | TellingView | ConcealedView

type TellingView = {
  kind: 'telling'
  at: Point
  text: string
  face: Face | null
  link: string
  shows: Showing
  id: string
  prompt: string
  compulsory: boolean
}

type Tolerance = {
  slack: number
  bands?: Band[]
}

type TryCode = {
  kind: 'tryCode'
  target: string
  code: string
}

type TypeText = {
  kind: 'typeText'
  target: string
  text: string
}

type TypedAnswer = TypedText | TypedNumber

type TypedNumber = {
  kind: 'number'
  value: number
  within?: number
  withinShare?: number
  units?: MeasureUnit[]
  ignoreUnitCapitals?: boolean
}

type TypedQuestion = {
  kind: 'typed'
  answer: TypedAnswer
  text: string
}

type TypedText = {
  kind: 'text'
  spellings: Spelling[]
  rules?: SpellingRules
}

type Typing = {
  kind: 'typing'
  target: string
}

type TypingView = {
  kind: 'typing'
  region: Region
  isNumber: boolean
  units: string[]
  id: string
  prompt: string
  compulsory: boolean
}

type ValueView = {
  label: string
  value: number
}

type Verdict = 'right' | 'part' | 'wrong' | 'surplus' | 'unscored'

type VideoFace = {
  kind: 'video'
  width: number
  height: number
  captions?: string | null
  from?: number
  to?: number | null
  media: string
}

type Want = WantSet | WantCount | WantTotal

type WantCount = {
  kind: 'count'
  labels: string[]
  is: CountIs
  number: number
}

type WantSet = {
  kind: 'set'
  labels: string[]
}

type WantTotal = {
  kind: 'total'
  from: number
  to: number
}

type WorkView = {
  open: boolean
  score: ScoreView | null
  bandText: string | null
  remarks: string[]
  panes: PaneWorkView[]
}

type WritingDirection = 'leftToRight' | 'rightToLeft'

type WrongLabels = 'stay' | 'goBack'

type ZoneKeyView = {
  zone: string
  labels: string[]
}

type ZoneMarkView = {
  zone: string
  state: TargetState
}

type ZoneTextView = {
  zone: string
  text: string
}

type ZoneView = {
  id: string
  region: Region
  capacity: number
  prompt: string
  leader: Point | null
  compulsory: boolean
}
}
