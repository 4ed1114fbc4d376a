/** What the application and the command line may use of the core; nothing else is imported from outside. */
export {
  type BriefFacts,
  type Condition,
  type ConditionField,
  conditionFrom,
  conditionKinds,
  describeCondition,
  isMet,
  type Met
} from './brief/conditions.ts';
export { autoQuads } from './autoquad/auto-quads.ts';
export { type AutoQuadsOptions, FEWEST_QUADS, type Guide, type LinePick, type PoleMove, type SizeDab } from './autoquad/base/options.ts';
export { StepStore } from './autoquad/base/step-store.ts';
export { areaToLay } from './autoquad/beside/area-to-lay.ts';
export { middlesOf } from './autoquad/beside/lay-beside.ts';
export { type PlannedPole } from './autoquad/field/pole-plan.ts';
export { ringOfStroke } from './autoquad/field/section-ring.ts';
export { lookAhead, type LookAhead, planPoles } from './autoquad/look-ahead.ts';
export { planeName } from './autoquad/symmetry/symmetry.ts';
export {
  changedSurface,
  type ChangedSurface,
  describeForecast,
  describeLoops,
  describeMove,
  forecast,
  type Forecast,
  largestMove,
  type Pole
} from './check/forecast.ts';
export {
  cornerAngles,
  deviation,
  type Deviation,
  edgeLengths,
  histogram,
  type Histogram,
  measure,
  type Measures,
  skewFaces,
  unevenEdges
} from './check/measures.ts';
export { describePlanReport, planReport, reportLevel } from './check/plan-report.ts';
export { quadQuality } from './check/quad-quality.ts';
export { type Dab, dabsIn, withDab } from './even/dabs.ts';
export { type Lock, type LockKind, locksOf } from './even/locks.ts';
export { maskedVertices, savedMasks } from './even/mask.ts';
export { type CageOfRegions, cageFromRegions, type KnownRegion, knownRegions } from './regions/cage-from-regions.ts';
export { isBetweenRegions, type Region, regionList, regionName } from './regions/edit-regions.ts';
export { describeEven, evenedOut, type EvenReport, type EvenSettings, holdsAll } from './even/even-out.ts';
export { fillHole, fillMethods, MOST_GRID_EDGES } from './fill/fill-hole.ts';
export { describeHole, type Hole, holeAlong } from './fill/hole.ts';
export { fillRing, type Gap, gapsOf } from './fill/nested.ts';
export { bringIn, type BringInOptions, type BroughtIn } from './formats/bring-in.ts';
export { besides, type Format, FormatError, losses, type WriteOptions } from './formats/format.ts';
export { plainName, stemOf } from './formats/gzip.ts';
export { joinedBytes } from './formats/join-bytes.ts';
export { obj } from './formats/obj.ts';
export { ply } from './formats/ply.ts';
export { acceptedFiles, formatByName, formatNames, formats, readMesh, tooLarge, writeMesh } from './formats/registry.ts';
export { usda } from './formats/usda.ts';
export { apart, comparedInWords, comparedRows, type ComparedState, stateMeasures } from './check/compare.ts';
export { exampleIds, exampleOf } from './check/examples.ts';
export { kindHeading } from './check/kind-names.ts';
export { waysOut } from './check/ways-out.ts';
export { patchesBetweenPoles, stripPattern } from './check/flow-pattern.ts';
export { MirrorPartners } from './check/mirror-partners.ts';
export { checkPart, lookThrough, type Checked } from './check/check-part.ts';
export { type Curvatures, limitCurvatures } from './check/curvature.ts';
export { poleReasons, type ReasonedPole } from './check/pole-reasons.ts';
export { findingsAsJson, type PartReport, reportCsv, reportHtml, reportOn, type ReportPictures } from './check/report.ts';
export { type CheckedPart, type Finding, type Fix } from './check/findings/finding.ts';
export { type Act, type Place, there } from './hand/acts.ts';
export { bandAlong, bandProblem } from './hand/band.ts';
export { type BandPoint } from './hand/band-way.ts';
export { holdTo, type HoldSettings } from './hand/hold.ts';
export { heedHold } from './hand/held.ts';
export { keptEdges } from './hand/kept.ts';
export { LaidCage } from './hand/laid-cage.ts';
export { cornerClicked, type Intent, intentAt, openRow, pendingOf, pulledOut, type Reach, slidTo } from './hand/intents.ts';
export { type Anchor, SurfaceWalk } from './hand/surface-walk.ts';
export { cutAcross, edgeNear, filledAlong, joinedBy, rowAcross, type RowWay, slidRow } from './hand/whole-rows.ts';
export { type LiveEdit, type MeshEdit } from './live/live-edit.ts';
export { FIRST_BRANCH } from './logbook/branches.ts';
export { type Branch, type Entry, type JobState, type Layer, type NamedSet, type Part, REMOVE_PART, RENAME_PART } from './logbook/entry.ts';
export { type JobFile, JobFileError, readJobFile, writeJobFile } from './logbook/job-file.ts';
export { type Change, documentSettings, type DocumentSettings, entriesOf, type Journal, journalOf, type Step } from './logbook/journal.ts';
export { patchOf } from './logbook/laid-patch.ts';
export { entryTitle, storeRefusal } from './logbook/entry-words.ts';
export { describeLater } from './logbook/later.ts';
export { Logbook, type NewEntry } from './logbook/logbook.ts';
export { type Footing, footingsOn } from './spares/footings.ts';
export { placedSpare, type Placing, plainSpare, readSpare, type Spare, SpareError, spareOf } from './spares/spare.ts';
export { performRoutine, type PlainStep, perform, type Performed, type PlainPart, plainParts, takenUp } from './logbook/perform.ts';
export { bytesOf } from './mesh/cage-arrays.ts';
export { describeRepair } from './mesh/repair-report.ts';
export { replayAhead } from './logbook/replay-ahead.ts';
export { asPreviewed, lockedRefusal, meshAsPreviewed, otherCages, type Replayed, surroundings } from './logbook/replay.ts';
export { assertValid } from './mesh/assert-valid.ts';
export { Cage } from './mesh/cage.ts';
export { isClosed } from './mesh/closed.ts';
export { vertexColour } from './mesh/colours.ts';
export { isUnchanged, changedValues, onlyMoved } from './mesh/difference.ts';
export { CageError, NONE } from './mesh/half-edges.ts';
export { faceArea, faceMiddle, faceNormal } from './mesh/normals.ts';
export { boundsOf, faceCount, polygonMesh, type PolygonMesh, vertexCount } from './mesh/polygon-mesh.ts';
export { replaceFaces } from './mesh/replace-faces.ts';
export { borderLoops, enclosedVolume, facesRound, genus, isPole } from './mesh/topology.ts';
export { triangulate } from './mesh/triangulate.ts';
export { lengthInWords, millimetres } from './numeric/length-words.ts';
export { randomNumbers } from './numeric/random.ts';
export { add, between, cross, dot, length, mean, scaled, subtract, type Triple, unit } from './numeric/vectors.ts';
export { applyOperation, applyPartsOperation, applySurfaceOperation, checkPartsOperation, validParams } from './operations/apply.ts';
export { extrude } from './operations/build/extrude.ts';
export { type Field, fieldsOf } from './operations/card-fields.ts';
export { bordersOf } from './operations/fill/borders-meant.ts';
export { quadGrid } from './operations/fill/caps.ts';
export { transformFrame, type TransformParams, transformWeights } from './operations/form/transform.ts';
export { namesOf, numbersFor, type Placement, placementOf, type PlacementNumbers } from './operations/shared/placement.ts';
export { startShape } from './operations/source/start-shape.ts';
export { autoQuadsOperation, autoQuadsOptions } from './operations/lay/lay-quads.ts';
export {
  decodeLaid,
  decodeLayTask,
  decodeTold,
  encodeLaid,
  encodeLayTask,
  encodeTold,
  type KeptQuads,
  type Laid,
  type LaidLine,
  lay,
  type LayTask,
  type ToldLine
} from './operations/lay/lay-task.ts';
export {
  type Bench,
  benches,
  type CageOperation,
  type Grip,
  filledOnReference,
  isBrush,
  isStored,
  type LiveOperation,
  LONG,
  type NamedCage,
  type Operation,
  type Params,
  type PartsOperation,
  type Knob,
  type Proposal,
  type Refusal,
  secondsFor,
  type ShapeOperation,
  type StandNumber,
  type SurfaceOperation,
  worksLive
} from './operations/operation.ts';
export { InvalidParams, OperationRefused, refuse } from './operations/refusal.ts';
export { LOWER_ROW, operationById, operations, rackAt, UPPER_ROW } from './operations/registry.ts';
export { type Frame, squareTo, WORLD_AXES } from './operations/shared/frame.ts';
export { type PointedPlace, positionOf } from './operations/shared/places.ts';
export { counted } from './operations/shared/words.ts';
export { bringInFile } from './operations/source/bring-in-file.ts';
export { Reference } from './reference/reference.ts';
export { shadedTriangles } from './reference/shading.ts';
export { finds } from './select/finds.ts';
export { describeLoop, edgeLoop, edgeRing, loopThrough } from './select/loops.ts';
export { pathBetween } from './select/paths.ts';
export {
  allOf,
  borderOf,
  converted,
  describeSelection,
  type ElementKind,
  emptySelection,
  facesAround,
  facesOf,
  findAll,
  grown,
  inverted,
  isEmpty,
  islandOf,
  kindOf,
  onlyPresent,
  onlyShown,
  selectEdges,
  selectFaces,
  type Selection,
  selectVertices,
  shrunk,
  toggled,
  united,
  verticesOf,
  without
} from './select/selection.ts';
export { channelBuoy } from './shapes/channel-buoy.ts';
export { demoJobs } from './shapes/demo-jobs.ts';
export { marshNewt } from './shapes/marsh-newt.ts';
export { denseSphere } from './shapes/sample-surfaces.ts';
export { ventElbow } from './shapes/vent-elbow.ts';
export { box, cylinder, plane, quadSphere, torus } from './shapes/start-shapes.ts';
export { loadSolids } from './solids/engine.ts';
export { bake, dividedCage } from './subdivide/bake.ts';
export { deepestLevel, levelSteps, possibleScheme, type SurfaceSettings } from './subdivide/level-plan.ts';
export { SubdivisionError } from './subdivide/level-topology.ts';
export { splitAtCreases } from './subdivide/sectors.ts';
export { Subdivision, type SubdivisionOptions } from './subdivide/subdivision.ts';
export { decodeMesh, encodeMesh, MeshBodyError } from './task/mesh-body.ts';
export { StageSeconds } from './task/stage-seconds.ts';
export { reporting, type Shown } from './task/steps.ts';
export { adviceFor, type Advice, sentBy, type Way } from './deliver/advice.ts';
export {
  BatchError,
  type BatchFile,
  type BatchReport,
  type BatchSettings,
  doBatchFile,
  failureInWords,
  readBatch,
  reportInWords,
  twinsAmong
} from './deliver/batch.ts';
export { type DetailLevel, detailLevels, type DetailSettings, fewerLevels } from './deliver/detail-levels.ts';
export { type DeliveryRecord, deliverySheet, differenceInWords } from './deliver/delivery-sheet.ts';
export { zipFiles } from './formats/zip-files.ts';
export { type DensityRow, sculptDensity } from './deliver/sculpt-density.ts';
export { deliveryReport, type DeliveryReport } from './deliver/delivery-report.ts';
export { type Destination, destinations, destinationSchema } from './deliver/destination.ts';
export { differenceAt, offByPoint, worstPlace } from './deliver/difference.ts';
export { receive, type Received, type Sent } from './deliver/receive.ts';
export { exampleRoutines } from './logbook/example-routines.ts';
export { type DoneEntry, queryFor, routineFrom } from './logbook/make-routine.ts';
export { playRoutine, readRoutine, type Routine, RoutineError } from './logbook/routine.ts';
