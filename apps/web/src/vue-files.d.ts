// ESLint's type information does not read .vue files; vue-tsc does, and passes over this.
declare module '*.vue' {
  import type { DefineComponent } from 'vue';
  const component: DefineComponent;
  export default component;
}
