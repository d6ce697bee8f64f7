// The lint of components' scripts apart from their components: what only the template uses is not known here (vue-tsc knows it).
import config from '../../oxlint.config.mjs';

const overrides = [
  ...config.overrides,
  { files: ['**/*'], rules: { 'no-unused-vars': 'off', 'typescript/consistent-type-imports': 'off' } },
];

export default { ...config, overrides };
