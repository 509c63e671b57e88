import path from 'node:path';
import type { Rewrite } from '../rewrite/results.js';
import type { TrialResult } from '../trial/trial.js';
import { angularChecker } from './angular-checker.js';
import { proofOf, type PlayProof, type Proof, type ProofLevel, type Texts, type TypesProof } from './proof.js';
import { installed, typescriptChecker, type TypesChecker } from './typescript-checker.js';

/** A rewrite that is to be proven. */
export interface ToProve {
  /** Absolute path of the form's own file. */
  file: string;
  framework: 'react' | 'angular' | 'vue';
  rewrite: Rewrite;
  /** The texts that are there afterwards: its own, and those of rewrites that are written before it. */
  after: Texts;
  /** Plays the form before and after. */
  play(): Promise<TrialResult>;
}

/** A rewrite's proof, and the play's answer where both versions were played. */
export interface Proven {
  proof: Proof;
  trial: Extract<TrialResult, { kind: 'compared' }> | undefined;
}

/** Proves rewrites: one compiler and what it has read serve all of them. */
export interface Prover {
  prove(one: ToProve): Promise<Proven>;
}

/**
 * Makes a prover.
 * @param level what is to be proven
 */
export function proverFor(level: ProofLevel): Prover {
  const checkers = new Map<string, TypesChecker>();
  const checkerFor = (framework: string): TypesChecker => {
    const known = checkers.get(framework) ?? (framework === 'angular' ? angularChecker() : typescriptChecker());
    checkers.set(framework, known);
    return known;
  };
  return {
    async prove(one) {
      const { rewrite } = one;
      const types: TypesProof | undefined =
        level === 'all' || level === 'types'
          ? await checkerFor(one.framework).compare(
              rewrite.files.map(({ file }) => file),
              one.after,
            )
          : undefined;
      // what the compiler refuses need not be played
      const wanted = (level === 'all' || level === 'play') && types?.kind !== 'worse';
      const played = wanted ? await playProof(one) : undefined;
      return { proof: proofOf(types, played?.proof), trial: played?.trial };
    },
  };
}

const needed = { react: ['react', 'react-dom'], angular: ['@angular/core', '@angular/forms'], vue: ['vue'] } as const;

async function playProof(one: ToProve): Promise<{ proof: PlayProof; trial: Proven['trial'] }> {
  const lacking = needed[one.framework].find((name) => !isInstalled(name, one.file));
  if (lacking !== undefined)
    return { proof: { kind: 'none', why: `${lacking} is not installed here` }, trial: undefined };
  const result = await one.play();
  if (result.kind === 'unplayable') {
    // a form that could be shown before has to be shown after
    const kind = result.broken ? 'different' : 'none';
    return { proof: { kind, why: result.reason }, trial: undefined };
  }
  const { comparison } = result;
  return {
    proof: comparison.same ? { kind: 'same', steps: comparison.steps.length } : { kind: 'different' },
    trial: result,
  };
}

function isInstalled(name: string, from: string): boolean {
  return installed<object>(`${name}/package.json`, path.resolve(from)) !== undefined;
}
