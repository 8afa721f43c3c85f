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
export type Shelf = Schemas['ShelfBody'];
export type ShelfImport = Schemas['Import'];
export type Lever = Schemas['Lever'];
export type FourthAnswer = Schemas['FourthAnswer'];
export type Finding = Schemas['Finding'];
export type StoredBuild = Schemas['StoredBuild'];
export type BuildSummary = Schemas['BuildSummary'];
export type Text = CaseResult['sentence'];
export type Verdict = CaseResult['verdict'];
export type ProblemField = Schemas['ProblemField'];
export type Problem = Schemas['Problem'];
export interface ConflictProblem extends Problem {
  readonly based_on: number;
  readonly current: StoredBuild;
  readonly yours: Build;
}
