// Reads components for the lint of imports: their script as TypeScript, without types, which it does not need.
import tsParser from '@typescript-eslint/parser';
import * as vueParser from 'vue-eslint-parser';

export function parseForESLint(code, options) {
  return vueParser.parseForESLint(code, { ...options, parser: tsParser, project: undefined, projectService: false, programs: undefined });
}
