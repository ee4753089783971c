import type { Page, Panel } from '../api/client';

/**
 * Asks one question at a time. When its answer has come the latest wish is asked next, so that a picture is never more
 * than one answer behind the hand, and no answer overtakes another.
 */
export class Follower<Q, A> {
  private wish: { value: Q } | null = null;
  private busy = false;

  constructor(
    private readonly ask: (question: Q) => Promise<A>,
    private readonly show: (answer: A) => void,
    private readonly fail: (fault: unknown) => void,
  ) {}

  want(value: Q) {
    this.wish = { value };
    void this.run();
  }

  /** Wants nothing any more; what is under way is not shown. */
  rest() {
    this.wish = null;
    this.round++;
  }
  private round = 0;

  private async run() {
    if (this.busy) return;
    this.busy = true;
    while (this.wish) {
      const { value } = this.wish;
      const { round } = this;
      this.wish = null;
      try {
        const answer = await this.ask(value);
        if (round === this.round) this.show(answer);
      } catch (fault) {
        if (round === this.round && !this.wish) this.fail(fault);
      }
    }
    this.busy = false;
  }
}

/** Asks once for each question and keeps the latest answers, `most` of them; what failed is asked again. */
export function once<Q, A>(ask: (question: Q) => Promise<A>, most: number): (question: Q) => Promise<A> {
  const answers = new Map<string, Promise<A>>();
  return question => {
    const key = JSON.stringify(question);
    const had = answers.get(key);
    answers.delete(key);
    const answer = had ?? ask(question);
    answers.set(key, answer);
    for (const oldest of answers.keys()) {
      if (answers.size <= most) break;
      answers.delete(oldest);
    }
    if (!had) answer.catch(() => answers.delete(key));
    return answer;
  };
}

/** What follows the hand in the place of the same of the whole answer; the rest of it stands. */
export function merged(whole: Page, tried: Page): Page {
  const panels = (name: string, list: Panel[]) => {
    const anew = tried.views.find(v => v.name === name)?.panels ?? [];
    return list.map(p => anew.find(q => q.name === p.name) ?? p);
  };
  return {
    ...whole,
    headline: tried.headline.length > 0 ? tried.headline : whole.headline,
    verdicts: tried.verdicts,
    cans: tried.cans ?? whole.cans,
    views: whole.views.map(v => ({ ...v, panels: panels(v.name, v.panels) })),
  };
}
