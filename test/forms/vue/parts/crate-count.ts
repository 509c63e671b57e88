import { defineComponent, reactive } from 'vue';
import CrateNote from './CrateNote.vue';

interface Crates {
  grower: string;
  full: number;
  note: string;
}

export default defineComponent({
  components: { CrateNote },
  emits: ['stored'],
  setup(_, { emit }) {
    const crates = reactive<Crates>({ grower: '', full: 4, note: 'dry' });
    const store = (): void => emit('stored', { ...crates });
    return { crates, store };
  },
});
