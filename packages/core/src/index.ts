export { changesSinceFile, type ObjectChange, type ObjectChangeKind } from './edit/changesSinceFile.ts';
export { editPoints, type EditedPoints } from './edit/points/editPoints.ts';
export { PointsAsk } from './edit/points/pointsAsk.ts';
export { nearestRow, rowsInLasso, rowsUnderBrush } from './edit/points/pickPoints.ts';
export { nodesOf, shapeOfNodes, type ShapeNodes } from './edit/shapes/nodes.ts';
export { DRAWN_FORMS, type DrawnForm } from './edit/shapes/drawNew.ts';
export { fitNodes } from './geometry/fitNodes.ts';
export {
  addNode,
  countNodes,
  deleteNodes,
  flattenNodes,
  isSmooth,
  moveNodes,
  movePull,
  nearestOnNodes,
  type NodePart,
  type Nodes,
  NODE,
  nodesAt,
  placeOfNode,
  smooth,
  straighten,
} from './geometry/nodes.ts';
export { TEXTURES, type Texture, textureOf } from './generate/fill/textures.ts';
export { cuttingLines, type CutPiece } from './formats/svg/cuttingLines.ts';
export { type LaidPiece, piecesOf } from './plan/piecesOf.ts';
export { drawShapes, readShapeAsk, SHAPE_ASKS, SHAPE_NAMES, type ShapeAsk, type ShapeName } from './edit/shapes/drawShapes.ts';
export { AuditContext } from './audit/AuditContext.ts';
export { auditDesign } from './audit/auditDesign.ts';
export { compareFindings, type FindingChange, isWorse } from './audit/compareFindings.ts';
export { type AuditedFile, auditFile, type FileAudit, filesCsv, rankFiles } from './audit/auditFile.ts';
export { auditCsv } from './audit/auditTable.ts';
export { publishFinding, totalFindings } from './audit/publishFinding.ts';
export { FOLLOWS, problemOfLimit, problemsOfRules } from './audit/limitOf.ts';
export { type Verdict, weighRepair } from './audit/verdict.ts';
export { type Finding, type FindingPlace, type Place, type Price, SEVERITIES, type Severity } from './audit/finding.ts';
export { smallestHoop } from './audit/rules/fit/overflow.ts';
export { type Rule, RULE_GROUPS, type RuleGroup } from './audit/rule.ts';
export { findRule, RULEBOOK_VERSION, RULES } from './audit/rulebook.ts';
export {
  extendHistory,
  type History,
  JournalEntry,
  nameStep,
  type NamedStep,
  reachesFar,
  replayJournal,
  startHistory,
  type StateName,
  stateOf,
} from './edit/journal.ts';
export { overlapOf, type Touched, touchedBetween, touchedSince } from './edit/touchedBetween.ts';
export { type Branch, type EntryStub, partingOf, readStepTree, type StepTree, type TreeStep } from './edit/stepTree.ts';
export { compareObjects } from './edit/compareObjects.ts';
export { applyOperation, Operation, type SimpleOperation } from './edit/operations/registry.ts';
export { brokenBy, keepBlock, mergeBlocks, recolorBlock, sewBefore, splitBlockBefore } from './edit/order/arrange.ts';
export { regroupApplique, type RegroupedApplique } from './edit/order/regroupApplique.ts';
export { moveEnds, type MovedEnds, type WantedEnds } from './edit/order/moveEnds.ts';
export { proposeWay } from './edit/order/bestWay.ts';
export { type Connector, listConnectors } from './edit/order/connector.ts';
export { ORDER_PARTS, type OrderAsk, type OrderPart, type OrderProposal, proposeOrder } from './edit/order/proposeOrder.ts';
export { listStops } from './plan/stops.ts';
export { findSeenLayers, type SeenLayer, type SeenLayers } from './order/seenLayers.ts';
export { adaptFactor, adaptThread, type AdaptScope, type AdaptWay, type ThreadAdaption } from './edit/adaptThread.ts';
export { type OpeningProposal, type OpeningStep, proposeOpening } from './edit/proposeOpening.ts';
export { readObjectSpec, type SewnReport, type SewnSpecs, type SpecEdit, sewSpecs } from './edit/sewSpecs.ts';
export { measureSpecs, type Pair, type SpecPairs, type TriedSpecs, trySpecs } from './edit/trySpecs.ts';
export { baseFromJson, baseToJson, historyFrom, type JobBase, makeBase, type Snapshot, takeSnapshot } from './edit/jobBase.ts';
export type { EarlierStep } from './edit/rowJournal/replayRowJournal.ts';
export { RowEntry } from './edit/rowJournal/rowEntry.ts';
export { joinObjects, readAnew, type Rereading, splitObject, tellObject } from './edit/regroup.ts';
export { type LeftOut, type PlanStep, planOfRepair, type RepairFigures, type RepairPlan } from './edit/planOfRepair.ts';
export { type AppliedRepair, type RefusedRepair, type Repair, repairFindings } from './edit/repairFindings.ts';
export { layOutCopies, type LaidOut } from './hoopLayout/layOutCopies.ts';
export { readStitchCsv } from './formats/csv/readStitchCsv.ts';
export { writeStitchCsv } from './formats/csv/writeStitchCsv.ts';
export { readGcode } from './formats/gcode/readGcode.ts';
export { writeGcode } from './formats/gcode/writeGcode.ts';
export { BLANK_SHEET, type FileProblem, type ReadProgram } from './formats/fileProblem.ts';
export { expectedAt } from './release/expectedAt.ts';
export { type PlannedRun, planRun, type RunHabits } from './release/planRun.ts';
export { type BoardJob, type BoardOutcome, type Lanes, LIST_RULES, planByRule, planLanes, runLanes } from './release/board.ts';
export { BoardPlan, EMPTY_BOARD } from './release/boardPlan.ts';
export { minutesOn } from './release/minutesOn.ts';
export { ShopHours, USUAL_HOURS } from './release/shopHours.ts';
export { SPEC_FAULTS, type SpecFault } from './practice/faults.ts';
export { type PlantedFault, type PlantedFile, plantFaults, sewFault } from './practice/plantFaults.ts';
export { judgePractice, PracticeClaim, type PracticeResult } from './practice/judgePractice.ts';
export { CHECK_IDS, type CheckId, checkRelease, checksLeft, type ReleaseCheck } from './release/checkList.ts';
export { type ClockLesson, learnClock, learnPull, type Normal, type PullLesson, withClock, withPull } from './release/learn.ts';
export { PhotoPoint, type PhotoPlace, placePhoto } from './release/placePhoto.ts';
export { expectRun, proposePlaces, widthAt } from './release/samplePlaces.ts';
export { PUCKERING, SamplePlace, SewOut } from './release/sewOut.ts';
export { threadListCsv } from './release/threadList.ts';
export { CAUTIONS } from './words/cautions.ts';
export {
  headsOf,
  type OperatorStop,
  type ProductionSheet,
  productionSheet,
  type ThreadNeed,
  type ThreadTurn,
} from './release/productionSheet.ts';
export { type MachineRun, type Refused, simulateFile, simulateProgram, type SimulatedRun, simulateRun } from './release/simulate.ts';
export { type LayoutProblem, readLayout } from './formats/layout/checkLayout.ts';
export { type AboutDesign, DesignFile, designSchema } from './formats/json/designFile.ts';
export { readDesignJson, writeDesignJson } from './formats/json/designJson.ts';
export { type DecodedFile, decodeLayout, type TracedFile, type TracedRecord, traceLayout } from './formats/layout/decodeLayout.ts';
export { type EncodedFile, encodeLayout } from './formats/layout/encodeLayout.ts';
export { MachineLayout } from './formats/layout/machineLayout.ts';
export { layoutOfName, LayoutRecord, LAYOUTS } from './formats/layout/layoutRecord.ts';
export { SIMULATED_LAYOUT } from './formats/layout/simulatedLayout.ts';
export {
  FORMAT_CHOICE,
  FORMAT_EXTENSIONS,
  FORMAT_IDS,
  FORMAT_NAMES,
  type FormatId,
  formatOf,
  formatOfName,
  FORMATS,
  type StitchFormat,
  writeStitchFile,
} from './formats/formats.ts';
export { MAX_FILE_BYTES, readStitchFile } from './formats/readStitchFile.ts';
export { flattenPath } from './formats/svg/flattenPath.ts';
export { readSvg } from './formats/svg/readSvg.ts';
export { writeSvg } from './formats/svg/writeSvg.ts';
export { type Column, type ColumnPart, generateColumns } from './generate/column/columns.ts';
export { type ContourSpec, generateContour } from './generate/line/contour.ts';
export { type EdgeStitchSpec, generateEdgeStitch } from './generate/line/edgeStitch.ts';
export { generateFill } from './generate/fill/fill.ts';
export type { FillEnds, FillSpec } from './generate/fill/fillSpec.ts';
export { type GeneratedObject, type ObjectPart } from './generate/sew/collector.ts';
export { generateObject } from './generate/sew/generateObject.ts';
export { lineAcross, rungsOf } from './generate/column/leanLines.ts';
export { columnFor } from './generate/sew/sewSatin.ts';
export { generateMeander, type MeanderSpec } from './generate/line/meander.ts';
export { repairShape, type SoundShape } from './generate/sew/repairShape.ts';
export type { AngleLine } from './generate/fill/rowLines.ts';
export { generateRun, type RunSpec } from './generate/line/run.ts';
export { generateSatin, type SatinSpec } from './generate/column/satin.ts';
export { generateLock, type TieStyle } from './generate/line/tie.ts';
export {
  generateCenterRun,
  generateColumnEdgeRun,
  generateEdgeRun,
  generateReturnRun,
  generateTatamiUnderlay,
  generateZigzag,
} from './generate/underlay.ts';
export { roundToThousandth } from './geometry/number.ts';
export { offsetRings } from './geometry/offset.ts';
export { lengthOfPath, resamplePath } from './geometry/path.ts';
export { containsPoint, signedArea } from './geometry/ring.ts';
export { FABRICS } from './materials/fabrics.ts';

export { type Band, type BandedValue, bandsOf, usualUnderlay, type UnderlayNeeds } from './materials/specBands.ts';
export { asKind, type SpecChange, suggestSpec } from './materials/suggestSpec.ts';
export { defaultTarget, GARMENTS, HOOPS, MACHINES, THREADS } from './materials/shop.ts';
export { type Lab } from './measure/colorDifference.ts';

export { type CoverMap, mapCover, mapCoverBefore, updateCover } from './measure/coverMap.ts';
export { type Counts, countProgram, type Extents, HISTOGRAM_BIN } from './measure/counts.ts';
export { type Figures, inspectProgram } from './measure/inspect.ts';
export { type ClockEvent, type ClockKind, runClock, type RunClock, type RunTotals } from './measure/runClock.ts';
export { type PredictedGap, predictGaps } from './measure/predictedGaps.ts';
export { predictSewn } from './measure/sewnPrediction.ts';
export { type ColorUse, type ThreadUse } from './measure/threadUse.ts';
export { type Design, type KeptFinding } from './model/design.ts';
export { type Block, type Link, type LinkWay, type ObjectId, orderOf, type Plan, type PlanObject, type Sewn } from './model/plan.ts';

export { type Assembled, type ObjectPlace, placeOf } from './plan/assemble.ts';
export { designOf, startDesign } from './plan/designOf.ts';
export { objectsOf } from './plan/objectsOf.ts';

export {
  COLOR,
  type Command,
  COMMANDS,
  isSameProgram,
  JUMP,
  type Program,
  ProgramBuilder,
  type ProgramThread,
  type Row,
  STITCH,
  TRIM,
  UNNAMED_THREAD,
} from './model/program.ts';
export { AS_FILED, fromHoop, HoopPlace, placeProgram } from './model/place.ts';
export { centered, extentsInHoop, turned } from './measure/inHoop.ts';
export { sayCount } from './words/sayCount.ts';

export { sayClock, sayPull } from './materials/sayLearned.ts';
export { isOpenFill, OPEN_FROM } from './materials/specBands.ts';
export { programBytes } from './model/programBytes.ts';
export { ObjectShape, ObjectSpec, END_STITCH, SHORTEST, SPEC_VALUES, UnderlaySpec, USUAL_SPEC } from './model/objectSpec.ts';
export { SPEC_KINDS, type SpecKind, UNDERLAY_KINDS } from './model/kinds.ts';
export { type Result, succeed } from './model/result.ts';
export { type Gap, layLengths, splitIntoStretches, type Stretch } from './model/stretches.ts';
export {
  type ClothLook,
  Fabric,
  Garment,
  type Goal,
  GOALS,
  Hoop,
  Machine,
  type Schools,
  CLOTH_LOOKS,
  ShopRules,
  Target,
  HoopLayout,
  USUAL_RULES,
} from './model/target.ts';
export { type Fiber, FIBERS, threadThickness, ThreadType } from './model/thread.ts';
export { countLevels, findLayers, type Layer } from './order/layerGraph.ts';
export { findAlike, findNeighbours } from './recognize/findAlike.ts';
export type { LinePattern } from './model/kinds.ts';
export { PLAIN_RECOGNIZER } from './recognize/recognizePlainly.ts';
export { RECOGNIZER_VERSION, type Recognition, recognizeProgram, type RecognizeOptions } from './recognize/recognizeProgram.ts';
export { type Point, type RowSpan, type StitchObject, type UnderlayLayer } from './model/stitchObject.ts';
export { axisDifference } from './geometry/axis.ts';
export { STITCH_KINDS, STITCH_ROLES, type StitchKind, type StitchRole, type UnderlayKind } from './model/kinds.ts';
export { shapeOf, specOf } from './recognize/read/specOf.ts';
export { drawSteps, type StepPicture } from './recognize/drawSteps.ts';
export { publishObject } from './recognize/publishObjects.ts';
