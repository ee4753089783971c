import { noteAnswer } from '../away/away';
import createClient from 'openapi-fetch';
import type { components, paths } from './schema.gen';

export type Schemas = components['schemas'];
export type Verdict = Schemas['RuleVerdict'];
export type Working = Schemas['RuleWorking'];
export type Motor = Schemas['MotorView'];
export type Machine = Schemas['MachinePage'];
export type Plate = Schemas['PlateTyped'];
export type Leads = Schemas['WindingTyped'];
export type LeadsPage = Schemas['LeadsPage'];
export type Page = Schemas['FeedPage'];
export type Panel = Schemas['FeedPanel'];
export type Control = Schemas['FeedControl'];
export type Trial = Schemas['Trial'];
export type Drawing = Schemas['WiringDrawing'];
export type Row = Schemas['RuleRow'];
export type Supply = Schemas['Supply'];
export type Choices = Schemas['Choices'];

/** This window's own name, by which it tells its own changes from those of others. */
export const thisWindow = crypto.getRandomValues(new Uint32Array(3)).join('-');

export const client = createClient<paths>({ baseUrl: '/api', headers: { 'X-Window': thisWindow } });

/** A request that the server answered with a problem, or that never arrived (status 0). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    says: string,
    readonly fields: { location: string; message: string }[] = [],
  ) {
    super(says);
  }
}

const lost = 'The server cannot be reached. What you typed is kept here and will be sent again.';

/** Asks who is there: by name, where the problem says that a name is wanted. */
export const strange = (problem: Problem) =>
  window.dispatchEvent(
    new CustomEvent('brackmoor:passphrase', { detail: problem.fields.some(f => f.location === 'name') }),
  );

/** Unwraps an answer of the client: its data, or a Problem. */
export async function ask<T>(request: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer;
  try {
    answer = await request;
  } catch (fault) {
    if (fault instanceof DOMException && fault.name === 'AbortError') throw fault;
    throw new Problem(0, lost);
  }
  noteAnswer(answer.response);
  if (answer.response.ok) return answer.data as T;
  const problem = problemOf(answer.response.status, answer.error);
  if (problem.status === 401) strange(problem);
  throw problem;
}

export function problemOf(status: number, body: unknown): Problem {
  const model = (body ?? {}) as { detail?: string; errors?: { location?: string; message?: string }[] | null };
  const fields = (model.errors ?? []).map(e => ({ location: e.location ?? '', message: e.message ?? '' }));
  return new Problem(status, model.detail ?? `The server answered ${status}.`, fields);
}

/** Words of any error, for a person. */
export function words(fault: unknown): string {
  return fault instanceof Error ? fault.message : String(fault);
}
