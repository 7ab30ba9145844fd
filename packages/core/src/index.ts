export {
  type BatchAnswer,
  type BatchFile,
  type BatchOrder,
  type BatchPart,
  batchDrawing,
  batchPart,
  type CutListRow,
  cutListCsv,
  materialOfPart,
  namedFiles,
  proofsText,
} from "./batch/batch.ts";
export {
  DEFAULT_PATTERN,
  distinctNames,
  type NameWord,
  nameBy,
  patternProblem,
  safeName,
} from "./batch/file-names.ts";
export { type FileOrder, makeFile, type Refusal } from "./batch/part-file.ts";
export {
  stockOfRow,
  type TogetherFile,
  type TogetherOrder,
  type TogetherPart,
  togetherFiles,
} from "./batch/together.ts";
export {
  type BendShape,
  bendAllowance,
  bendDeduction,
  kFromAllowance,
  outerSetback,
} from "./bend/allowance.ts";
export { type CalibrationFit, calibrate, tableFromFits } from "./bend/calibration.ts";
export {
  allowanceOf,
  type BendChart,
  CHART_METHODS,
  type ChartAngle,
  type ChartGives,
  type ChartRow,
  type ChartRule,
  type DeductionTo,
  type TableRule,
} from "./bend/chart.ts";
export { type ChartAnswer, kByChart, kByDin, sayRule } from "./bend/chart-look-up.ts";
export {
  type CellProblem,
  checkChartRows,
  compareRows,
  type RowsReading,
  readChartText,
  writeChartText,
} from "./bend/chart-rows.ts";
export { chartTable, tableValue } from "./bend/chart-table.ts";
export { din6935Compensation, din6935Factor, din6935K } from "./bend/din6935.ts";
export { teardropHem } from "./bend/hem.ts";
export { jogFromAngle, joggleFromRun, leastOffset } from "./bend/jog.ts";
export {
  type BendPlace,
  type LengthTo,
  leastLength,
  lengthForLeg,
  straightLeg,
  tangentSetback,
} from "./bend/placement.ts";
export { sectionPoint } from "./bend/section.ts";
export { studentQuantile } from "./bend/student.ts";
export {
  followStudy,
  type StudyFollows,
  type StudyGiven,
  type StudyResult,
  type StudyUnknown,
  solveStudy,
} from "./bend/study.ts";
export {
  type Coupon,
  couponNumbers,
  couponShape,
  type Grain,
  type LegsMeasured,
  type TestBends,
} from "./bend/test-bend.ts";
export {
  type Die,
  dieFor,
  FORCE_FORMULA,
  FORCE_SOURCE,
  forcePerMetre,
  LEAST_LEG_FORMULA,
  LEAST_LEG_SOURCE,
  leastLeg,
  naturalRadius,
  RADIUS_FORMULA,
  RADIUS_SOURCE,
} from "./bend/tooling.ts";
export { type SourceLink, sayOutside, type WhyLine } from "./bend/why-line.ts";
export {
  askRules,
  type CheckedBuild,
  createCollisionCheck,
  createExaminer,
  examineFully,
  examinePart,
  isStopped,
  notChecked,
  notSearched,
  withCollisions,
} from "./check/check.ts";
export { mendCommand } from "./check/mends.ts";
export { NO_METAL } from "./check/no-metal.ts";
export { clearanceBetween, clearanceWithin, type LeastGap } from "./collision/clearance.ts";
export type { Nearest } from "./collision/convex.ts";
export { CONTACT, clearanceOf, collide, type Shared, sharedOf, wayApart } from "./collision/pair.ts";
export { CollisionSearch, type Meeting, type Searched } from "./collision/search.ts";
export { Solid, solidsOf } from "./collision/solids.ts";
export type { DocumentProblem } from "./fields/checking.ts";
export {
  type ChoiceField,
  type DrawnField,
  type FieldOf,
  type FieldSpec,
  type FieldValues,
  type ItemField,
  type NumberField,
  type NumbersField,
  type PickEntry,
  type PickOf,
  type PicksField,
  picksOf,
  type QuantityField,
  type RawValues,
  type RefersField,
  type RefersManyField,
  type RowsField,
  type RowValue,
  rowsOf,
  type TextField,
  typedText,
  type YesField,
} from "./fields/field.ts";
export { choicesOf, freshValues, shownFields } from "./fields/field-kinds.ts";
export { numberProblem } from "./fields/kinds/number.ts";
export { nearestName } from "./fields/unknown-values.ts";
export { firstPlace } from "./first-place.ts";
export {
  COMPARE_WITHIN,
  type Comparison,
  compareBlank,
  type Difference,
} from "./formats/compare/compare-blank.ts";
export { compareFile, type ReturnedFile } from "./formats/compare/compare-file.ts";
export { bendListCsv } from "./formats/csv/bend-list-csv.ts";
export { csvText } from "./formats/csv/csv.ts";
export {
  type BlankToDraw,
  bendNote,
  drawBlank,
  isDrawable,
  pieceOfBlank,
  STOP_WORDS,
} from "./formats/drawing/draw-blank.ts";
export type { Drawing, DrawnBlank, DrawnEntity, DrawnFacts } from "./formats/drawing/drawing.ts";
export {
  cornersOf,
  type InTheWay,
  inTheWay,
  type NoteBox,
  type NoteWish,
  placeNotes,
  placesAlong,
  readable,
} from "./formats/drawing/note-places.ts";
export {
  MOST_IN_ONE_FILE,
  sideBySide,
  tooManyTogether,
  type Wanted,
} from "./formats/drawing/side-by-side.ts";
export { strokeText, textWidth } from "./formats/drawing/strokes.ts";
export { type DxfVersion, writeDxf } from "./formats/dxf/dxf.ts";
export { type DxfExport, exportDxf } from "./formats/dxf/export-dxf.ts";
export { type Proof, type ProofLine, proveDxf } from "./formats/dxf/prove-dxf.ts";
export { type DrawnShapes, readDxf, readDxfShapes } from "./formats/dxf/read-shapes.ts";
export type { FileFormat, MadeFile } from "./formats/file-format.ts";
export { writeGlb, writeGltf } from "./formats/gltf/gltf.ts";
export { type ReportedFinding, reportFindings } from "./formats/json/findings.ts";
export { summarize } from "./formats/json/summary.ts";
export { FILE_FORMATS, fileFormat } from "./formats/registry.ts";
export { sarifLog } from "./formats/sarif/sarif.ts";
export { type CleanSurface, cleanSurface } from "./formats/stl/clean-surface.ts";
export { foldedSurface } from "./formats/stl/folded-surface.ts";
export { partStl } from "./formats/stl/part-stl.ts";
export { writeStl } from "./formats/stl/stl.ts";
export { drawingSvg } from "./formats/svg/drawing-svg.ts";
export { blankPicture, curvePath, FOLDED_VIEWS, type FoldedView, foldedPicture } from "./formats/svg/svg.ts";
export { write3mf } from "./formats/threemf/threemf.ts";
export { type BlankShown, sectionPlaces } from "./forming/section.ts";
export { type JobMessage, type JobOutcome, type JobRequest, type SayProgress, tooLong } from "./jobs/job.ts";
export { type Packet, packetBytes, Receiver, Sender } from "./jobs/sent-once.ts";
export { Kept } from "./kept.ts";
export { Once } from "./once.ts";
export { OutlineDrag } from "./outline/drag.ts";
export { closeChains } from "./outline/drawing/close-chains.ts";
export { placeAt, shapeOf, turnOfArc } from "./outline/drawing/curve-places.ts";
export type {
  DrawTool,
  ToolStage,
  ToolTask,
  ToolValue,
  TypedNumber,
  TypedNumbers,
} from "./outline/drawing/draw-tool.ts";
export {
  asConstruction,
  DRAW_TOOLS,
  type DrawnInto,
  drawInto,
  drawTool,
  removeFrom,
  withoutSaying,
} from "./outline/drawing/draw-tools.ts";
export {
  dimensionOffers,
  isTooMuch,
  type Offer,
  relationOffers,
  withOffer,
} from "./outline/drawing/offers.ts";
export type { Backdrop, Caught, Place, Way, XY } from "./outline/drawing/place.ts";
export { putTool } from "./outline/drawing/put-outline.ts";
export { type SnapOptions, snapPlace } from "./outline/drawing/snap.ts";
export { standForTool } from "./outline/drawing/stand-for.ts";
export { Equations } from "./outline/equations.ts";
export {
  curvesOfShape,
  foundRelations,
  type OutlineRead,
  outlineFromShapes,
  plainShapes,
  type Shape,
} from "./outline/from-shapes.ts";
export { holdAsItIs, standing } from "./outline/hold.ts";
export { standOnPart } from "./outline/on-part.ts";
export {
  type DimensionKind,
  OUTLINE_FORMAT,
  OUTLINE_VERSION,
  type Outline,
  type OutlineCurve,
  type OutlineDimension,
  type OutlineReference,
  type Relation,
  type RelationKind,
  withDistinctIds,
} from "./outline/outline.ts";
export { outlineProblems, readOutline, readOutlinesText } from "./outline/read-outline.ts";
export { type OutlineRegions, outlineRegions } from "./outline/regions.ts";
export { dimensionOf, type OutlineProblem, type SolvedOutline, solveOutline } from "./outline/solve.ts";
export { groupsOf, solveGroup } from "./outline/solve-group.ts";
export { linearise } from "./outline/sparse.ts";
export { DIMENSION_WORDS, RELATION_WORDS, sayOf } from "./outline/words.ts";
export {
  ACCEPTED_WITHIN,
  type AcceptedFinding,
  aboutOf,
  acceptanceOf,
  canBeAccepted,
} from "./part/accepted.ts";
export { type BendListRow, bendList, fromDatum } from "./part/bend-list.ts";
export { type BlankFacts, blankFacts, factChanges } from "./part/blank-facts.ts";
export {
  BLANK_SHOWS,
  type BlankDimension,
  type BlankSettings,
  type BlankShow,
  DEFAULT_SHOWS,
  orientationOf,
  presetOf,
} from "./part/blank-settings.ts";
export {
  type BendRow,
  type BuiltStock,
  buildPart,
  createPartBuilder,
  namesIn,
  type PartBuild,
  type RolledRow,
} from "./part/build.ts";
export { type AppliedAll, applyCommand, applyCommands } from "./part/commands/apply.ts";
export type { PartCommand, PatchCommand } from "./part/commands/command.ts";
export { withCommand } from "./part/commands/join.ts";
export { patchBetween } from "./part/commands/patch.ts";
export { commandSchema, readCommands, readCommandText } from "./part/commands/read-command.ts";
export { sayAll, sayCommand } from "./part/commands/say-command.ts";
export type { Variable } from "./part/document.ts";
export {
  DOCUMENT_FORMAT,
  DOCUMENT_VERSION,
  LARGEST_DOCUMENT,
  LONGEST_NAME,
  type Measure,
  newPart,
  type PartDocument,
  type PartOutline,
  type StepDocument,
} from "./part/document.ts";
export {
  copyOfStep,
  dependentsOf,
  freshKey,
  freshPickKey,
  freshStepId,
  lastStepOf,
  moveProblem,
  moveStep,
  pasteSteps,
  removeStep,
} from "./part/edit.ts";
export { broughtUpToDate, followingCopy, isFollowed } from "./part/follow.ts";
export { notesOfChange, UNKNOWN_VALUE, unknownInPart, type ValueNote } from "./part/idle-values.ts";
export { groupCommand, groupOf, type PickedThing } from "./part/kept-group.ts";
export { migrate } from "./part/migrate.ts";
export { cornersBefore, plateBefore } from "./part/offered.ts";
export { ontoPlate, standsOn } from "./part/onto-plate.ts";
export { readDocument, readDocumentText } from "./part/read.ts";
export { picksIn, plateLabels } from "./part/references.ts";
export type { StepOutcome } from "./part/run-steps.ts";
export { featureOfOpening, sayLook } from "./part/say-feature.ts";
export { documentSchema, type Naming } from "./part/schema.ts";
export { type HardwareCount, hardwareOf } from "./part/set-in.ts";
export {
  allowsRadius,
  cardOf,
  evaluateStock,
  MATERIAL_FIELDS,
  materialOf,
  OWN_OF_PART,
  overridesOf,
  STOCK_FIELDS,
  type StockRemark,
  stockRaw,
} from "./part/stock.ts";
export {
  evaluateVariables,
  formatVariable,
  nameProblem,
  renameDimension,
  renameVariable,
  variablesOf,
} from "./part/variables.ts";
export type { Why } from "./part/why/asked.ts";
export { type BendQuestion, whyBend } from "./part/why/why-bend.ts";
export { whyBlankArea, whyBlankSize } from "./part/why/why-blank.ts";
export { whyFlange } from "./part/why/why-flange.ts";
export { whyDistance, whyEdge, whyFoldedSize, whyMass, whyPlate } from "./part/why/why-size.ts";
export { type Affine, after, placeOn, UNMOVED, wayOn } from "./plane/affine.ts";
export { combine, intersectLoops, overlapOf, subtractLoops } from "./plane/boolean.ts";
export {
  arcAngles,
  type Curve,
  curveLength,
  curvesBounds,
  flattenCurve,
  type Line,
  line,
  pointAt,
  reversed,
} from "./plane/curve.ts";
export { backOf, type Isometry, moveCurve, moveDirection, movePoint } from "./plane/isometry.ts";
export {
  asCircle,
  circleLoop,
  flattenLoop,
  type Loop,
  loopArea,
  loopBounds,
  loopLength,
  polygonLoop,
  rectangleLoop,
} from "./plane/loop.ts";
export { NearCurves } from "./plane/near-curves.ts";
export {
  type Bounds,
  boundsMeet,
  dot,
  EMPTY_BOUNDS,
  fromFrame,
  grown,
  joinBounds,
  type Point,
  point,
  samePoint,
  subtract,
} from "./plane/point.ts";
export { type Region, regionArea, regionBounds, regionLoops } from "./plane/region.ts";
export { extentAlong, type SmallestRectangle, smallestRectangle } from "./plane/smallest-rectangle.ts";
export { insideLoop } from "./plane/stitch.ts";
export { fail, ok, type Result } from "./result.ts";
export { type Blank, blankOf } from "./sheet/blank/blank.ts";
export {
  type DimensionAlong,
  type FlatDimension,
  flatDimension,
  movePlace,
} from "./sheet/blank/flat-dimension.ts";
export { type FlatPlace, flatPlace } from "./sheet/blank/flat-place.ts";
export {
  BLANK_TURNS,
  type BlankTurn,
  moveBlank,
  type Orientation,
  orientBlank,
  type PlacedBlank,
} from "./sheet/blank/orientation.ts";
export { type SheetCorner, sheetCorners } from "./sheet/corners/corners.ts";
export { newDraft } from "./sheet/draft.ts";
export {
  type Feature,
  type FeatureKind,
  type FeatureLook,
  featureFrame,
  roundOf,
  wholeFeature,
} from "./sheet/feature.ts";
export { finishSheet } from "./sheet/finish.ts";
export {
  evenState,
  type Folding,
  facingOf,
  foldPoint,
  foldSheet,
  unfoldPoint,
} from "./sheet/folding/fold.ts";
export { FOLD_MAP, FOLD_NUMBERS, foldNumbers } from "./sheet/folding/fold-map.ts";
export { type Box, foldedBox } from "./sheet/folding/folded-box.ts";
export { foldedMarks } from "./sheet/folding/folded-marks.ts";
export { developedArea, foldedVolume } from "./sheet/folding/folded-volume.ts";
export { type RayHit, rayHit } from "./sheet/folding/ray-hit.ts";
export { growFlange, legLoop } from "./sheet/growing/grow-flange.ts";
export { type LineMeaning, startFromLine } from "./sheet/growing/grow-fold.ts";
export { growPlate } from "./sheet/growing/grow-plate.ts";
export type { FlangeSpec, LegShape } from "./sheet/growing/spec.ts";
export { holePlace, legHolePlace } from "./sheet/hole-place.ts";
export { foldMesh } from "./sheet/meshes/folded-mesh.ts";
export { meshSheet, type SheetMesh } from "./sheet/meshes/mesh.ts";
export { ribPlaces } from "./sheet/meshes/rib-mesh.ts";
export { createTiler, type MeshTile, type TiledMesh, tileSheet } from "./sheet/meshes/tiles.ts";
export { outsideSizes } from "./sheet/outside-size.ts";
export { type FoundEdge, findEdge, findSite } from "./sheet/picking/find-edge.ts";
export {
  type Face,
  type Measured,
  type MeasureEnd,
  type MeasureFaces,
  measureBetween,
  openingLoops,
} from "./sheet/picking/measuring.ts";
export { type Pickable, pickables, runsOf } from "./sheet/picking/pickable.ts";
export type { Cone } from "./sheet/pieces/cone-piece.ts";
export type { Bend, Plate } from "./sheet/pieces/flat-pieces.ts";
export type { Formed } from "./sheet/pieces/formed-piece.ts";
export { kindOf, pieceKinds } from "./sheet/pieces/piece-kinds.ts";
export { roleTitle } from "./sheet/role-title.ts";
export {
  bendsOf,
  edgeName,
  formedOf,
  type Piece,
  partsOfName,
  pieceIndex,
  platesOf,
  ribsIn,
  type Sheet,
} from "./sheet/sheet.ts";
export { isClosedManifold, meshVolume } from "./space/mesh.ts";
export { dotV, type Motion, moveV, turnV, type Vector } from "./space/vector.ts";
export {
  type CollisionFacts,
  type Finding,
  type FindingLevel,
  type FindingPiece,
  type Mend,
  type Remedy,
  shownPiece,
  stops,
} from "./steps/finding.ts";
export { formOf, valueKey } from "./steps/form/form.ts";
export { roundSize } from "./steps/opening-values.ts";
export { nearestEdges } from "./steps/place-values.ts";
export { cornerOf } from "./steps/profile/profile.ts";
export { STEP_KINDS, stepKind } from "./steps/registry.ts";
export { freePlace, snapOnPlate } from "./steps/snap-on-plate.ts";
export {
  type BendSection,
  type DrawnOutline,
  fieldsOf,
  isOwnPiece,
  type Outlook,
  type Outlooks,
  type PlaceMark,
  type StepKind,
} from "./steps/step-kind.ts";
export { type CardSnapshot, sameSnapshot, snapshotOf } from "./stock/card-snapshot.ts";
export {
  allLayers,
  BUILT_IN_PRESETS,
  DRAWN_CONTENTS,
  type DrawnContent,
  type ExportPreset,
  LINE_TYPES,
  layersOf,
  PLAIN_PRESET,
  PRESET_FIELDS,
  type PresetLayer,
  presetDocument,
  presetProblems,
  readPresetText,
} from "./stock/export-preset.ts";
export { drawnSection, formDocument, readFormText } from "./stock/forms/form-file.ts";
export { FORM_FIELDS, type FormItem } from "./stock/forms/form-item.ts";
export { OWN_FORMS, ownForm } from "./stock/forms/own-forms.ts";
export { type FormProblem, type ResolvedForm, resolveForm } from "./stock/forms/resolve-form.ts";
export { HARDWARE_KINDS, type HardwareItem } from "./stock/hardware.ts";
export { ITEM_FIELDS } from "./stock/item-fields.ts";
export { refersTo, usersOf } from "./stock/item-references.ts";
export type { KeptGroup } from "./stock/kept-group.ts";
export { type KeptOutline, outlineChanges, takenOver } from "./stock/kept-outline.ts";
export {
  emptyLibrary,
  type GaugeList,
  itemOf,
  LARGEST_LIBRARY,
  type Material,
  SECTION_NOUNS,
  STOCK_SECTIONS,
  type StockCard,
  type StockItem,
  type StockItems,
  type StockLibrary,
  type StockSection,
} from "./stock/library.ts";
export { librarySchema } from "./stock/library-schema.ts";
export { chartWarnings, itemProblems } from "./stock/read-item.ts";
export { readLibrary, readLibraryText } from "./stock/read-library.ts";
export {
  RULE_GROUPS,
  RULE_LEVELS,
  type RuleLevel,
  type RuleValue,
  SHOP_RULES,
  type ShopRule,
} from "./stock/shop-rule-list.ts";
export { rulesOf, type ShopRuleSet } from "./stock/shop-rule-set.ts";
export {
  DEFAULT_RULES,
  RULES_FORMAT,
  RULES_VERSION,
  readRules,
  readRulesText,
  type ShopRules,
} from "./stock/shop-rules.ts";
export { type StandardOpening, toolsFor } from "./stock/standard-opening.ts";
export { startingCharts, startingLibrary } from "./stock/starting-stock.ts";
export { applyStockCommand, changeItem, itemChange, type StockItemCommand } from "./stock/stock-commands.ts";
export {
  formatFraction,
  INCH,
  lengthText,
  lengthToStore,
  roundInches,
  sayLength,
  shortLength,
  snapStep,
  storedFrom,
  typedFor,
  UNITS,
  type Units,
  unitName,
} from "./units/display.ts";
export { evaluateExpression, type Names, renameInExpression } from "./units/expression.ts";
export {
  ANGLE_UNITS,
  type Dimension,
  formatFixed,
  formatShort,
  toDegrees,
  toRadians,
} from "./units/quantity.ts";
export { mm, sayLengths } from "./units/spoken-length.ts";
export { type ChangedValues, sameValue } from "./values.ts";
