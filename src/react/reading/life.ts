import { branched } from '../../course/branches.js';
import type { Told } from '../../course/cell.js';
import { rolesOf } from '../../course/roles.js';
import type { FormLife } from '../../form/life.js';
import type { FormModel } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import { changesOf } from './changes.js';
import { checkersOf, momentsOf, runsOf } from './checkers.js';
import { derivedStatus } from './derived-status.js';
import { messagesOf } from './messages.js';
import { sceneOf } from './look-over.js';
import type { Scene } from './scene.js';
import { courseOf } from './submit.js';
import { crowdedChanges } from './turns.js';

/** A model that tells what happens to the form besides its values, once that is asked for. */
export function withLife(model: FormModel, site: FormSite): FormModel {
  let life: FormLife | undefined;
  return { ...model, life: () => (life ??= lifeOf(site, model)) };
}

/** What happens to a form besides its values: status, runs of its rules, messages, the submit, changes. */
function lifeOf(site: FormSite, model: FormModel): FormLife {
  const scene = sceneOf(site, model);
  const told = tellingsOf(scene);
  const kept = scene.cells.flatMap((cell) => rolesOf(cell, told, scene));
  const status = [...kept, ...derivedStatus(scene, kept)];
  const runs = runsOf(scene);
  return {
    status,
    checkers: checkersOf(runs),
    moments: momentsOf(scene, runs, status),
    shown: messagesOf(scene, status),
    course: courseOf(scene, status),
    changed: changesOf(scene),
    crowded: crowdedChanges(scene),
    followsReset: scene.entries.some(({ event }) => event === 'onReset'),
  };
}

function tellingsOf(scene: Scene): Told[] {
  return scene.entries.flatMap(({ moment, events, submits }) => {
    const { events: placed } = branched(events, scene);
    return placed.flatMap(({ event, branch }) =>
      scene.tells(event).map((one): Told => ({ ...one, moment, branch: submits ? branch : undefined })),
    );
  });
}
