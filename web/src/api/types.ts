import type { components } from './schema';

type Schemas = components['schemas'];
export type Build = Schemas['Build'];
export type Variant = Schemas['Variant'];
export type Case = Schemas['Case'];
export type CaseResult = Schemas['CaseResult'];
export type Evaluation = Schemas['Evaluation'];
export type Uncertainty = Schemas['Uncertainty'];
export type Curves = Schemas['Curves'];
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
