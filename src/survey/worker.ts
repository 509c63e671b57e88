import { surveyFile, type FileSurvey } from './survey.js';
import type { ReadSettings } from '../rewrite/forms.js';

/** Surveys a batch of files in a worker; results in the order of the files. */
export default function surveyBatch(task: { files: string[]; settings: ReadSettings }): FileSurvey[] {
  return task.files.map((file) => surveyFile(file, task.settings));
}
