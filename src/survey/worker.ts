import { surveyFile, type FileSurvey, type SurveySettings } from './survey.js';

/** Surveys a batch of files in a worker; results in the order of the files. */
export default async function surveyBatch(task: { files: string[]; settings: SurveySettings }): Promise<FileSurvey[]> {
  const results: FileSurvey[] = [];
  for (const file of task.files) results.push(await surveyFile(file, task.settings));
  return results;
}
