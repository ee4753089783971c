import type { Page, Panel } from '../api/client';

/** A question under way, and which rest it came after. */
interface Under<A> {
  answer: Promise<A>;
  round: number;
}

/**
 * Asks one question at a time. When its answer has come the latest wish is asked, and then the answer shown, so that a
 * picture is never more than one answer behind the hand, and no answer overtakes another.
 */
export class Follower<Q, A> {
  private wish: { value: Q } | null = null;
  private under: Under<A> | null = null;
  private round = 0;

  constructor(
    private readonly ask: (question: Q) => Promise<A>,
    private readonly show: (answer: A) => void,
    private readonly fail: (fault: unknown) => void,
  ) {}

  want(value: Q) {
    this.wish = { value };
    if (!this.under) void this.run();
  }

  /** Wants nothing any more; what is under way is not shown. */
  rest() {
    this.wish = null;
    this.round++;
  }

  /** Whether an answer is still to come. */
  get behind() {
    return this.under !== null;
  }

  private next() {
    this.under = this.wish && { answer: this.ask(this.wish.value), round: this.round };
    this.wish = null;
  }

  private async run() {
    this.next();
    while (this.under) {
      const { answer, round }: Under<A> = this.under;
      const come = await answer.then(
        value => () => this.show(value),
        (fault: unknown) => () => this.under || this.fail(fault),
      );
      this.next(); // the server is at work on it while this is drawn
      try {
        if (round === this.round) come();
      } catch (fault) {
        this.fail(fault); // what could not be shown; it goes on following
      }
    }
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

/** A value to where sums of steps differ from steps, so that a place come to two ways is one place. */
export const exact = (value: number) => Number(value.toPrecision(12));

/** Where a hand comes to from a place if it goes on by so much; nothing where it stands, or past the ends. */
export function onward(at: number, by: number, least: number, most: number): number | null {
  const to = exact(at + by);
  return by !== 0 && to >= exact(least) && to <= exact(most) ? to : null;
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
