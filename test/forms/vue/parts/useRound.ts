import { reactive } from 'vue';

export function useRound<T extends { row: string }>(start: T, send: (round: T) => Promise<unknown>) {
  const values = reactive({ ...start }) as T;
  const errors = reactive<{ row?: string }>({});
  async function submit(): Promise<void> {
    if (values.row) await send(values);
    else errors.row = 'Which row?';
  }
  return { values, errors, submit };
}
