import type { components } from './schema';

type Schemas = components['schemas'];
export type Build = Schemas['Build'];
export type Variant = Schemas['Variant'];
export type Site = Schemas['Site'];
export type Case = Schemas['Case'];
export type CaseResult = Schemas['CaseResult'];
export type Evaluation = Schemas['Evaluation'];
export type Uncertainty = Schemas['Uncertainty'];
export type HeatCurves = Schemas['HeatCurves'];
export type Conditions = Schemas['Conditions'];
export type AirLines = Schemas['AirLines'];
export type Zone = Schemas['Zone'];
export type FlowLines = Schemas['FlowLines'];
export type Coolants = Schemas['Coolants'];
export type ShelfPart = Schemas['ShelfPart'];
export type ShelfKind = ShelfPart['part'];
export type Wishes = Schemas['Wishes'];
export type Sizing = Schemas['Sizing'];
export type SizingRun = Schemas['SizingRun'];
export type SizedSolution = Schemas['Solution'];
export type SizedRequirement = Schemas['Requirement'];
export type FrontPoint = Schemas['FrontPoint'];
export type Drive = Schemas['Drive'];
export type Leg = Schemas['Leg'];
export type LegFault = Schemas['LegFault'];
export type DriveCourse = Schemas['DriveCourse'];
export type FaultOutcome = Schemas['FaultOutcome'];
export type RecordingImport = Schemas['RecordingImport'];
export type Shelf = Schemas['ShelfBody'];
export type ShelfImport = Schemas['Import'];
export type Lever = Schemas['Lever'];
export type FourthAnswer = Schemas['FourthAnswer'];
export type Finding = Schemas['Finding'];
export type StoredBuild = Schemas['StoredBuild'];
export type RevisionHeading = Schemas['RevisionHeading'];
export type Health = Schemas['Health'];
export type BuildSummary = Schemas['BuildSummary'];
export type Text = CaseResult['sentence'];
export type Verdict = CaseResult['verdict'];
export type ProblemField = Schemas['ProblemField'];
export type Problem = Schemas['Problem'];
/** What is stored is no build any more: it comes as it is, with what is wrong. */
export interface UnreadableProblem extends Problem {
  readonly document: Record<string, unknown>;
  readonly revision: number;
}

export interface ConflictProblem extends Problem {
  readonly based_on: number;
  readonly current: StoredBuild;
  readonly yours: Build;
}
export type WorkshopSettings = Schemas['WorkshopSettings'];
export type Diagnosis = Schemas['Diagnosis'];
export type CauseChance = Schemas['CauseChance'];
export type CauseTest = Schemas['Test'];
export type Speaks = Schemas['Speaks'];
export type Answered = Schemas['Answered'];
export type TestCard = Schemas['Card'];
export type CaseBody = Schemas['CaseBody'];
export type CaseFinding = Schemas['CaseFinding'];
export type PracticeOf = Schemas['Practice'];
export type PracticeCar = Schemas['PracticeCar'];
export type PracticeFound = Schemas['Found'];
export type PracticeDebrief = Schemas['Debrief'];
export type DiagnosisQuestion = Schemas['DiagnosisQuestion'];
export type TestOrder = NonNullable<DiagnosisQuestion['order']>;
