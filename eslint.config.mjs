import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';

const shared = {
  '@typescript-eslint/no-unused-vars': [
    'error',
    { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true },
  ],
  '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
  '@typescript-eslint/no-non-null-assertion': 'error',
  '@typescript-eslint/no-explicit-any': 'error',
  eqeqeq: ['error', 'always', { null: 'ignore' }],
  'no-console': 'off',
};

/** Fields that hold English for people: code compares kinds, codes and ids, and never reads these. */
const PROSE = '/^(words|slipWords|headline|detail|because|advice)$/';
const PARTED =
  '/^(includes|startsWith|endsWith|indexOf|match|matchAll|search|slice|substring|split|replace|replaceAll)$/';
const message = 'This is English for people. Compare the kind, code or id beside it; words are made last.';
const proseIsNotRead = [
  `CallExpression[callee.property.name=${PARTED}][callee.object.property.name=${PROSE}]`,
  `CallExpression[callee.property.name='test'][arguments.0.property.name=${PROSE}]`,
  `BinaryExpression[operator=/^[!=]==$/][left.property.name=${PROSE}][right.type=/^(Literal|TemplateLiteral)$/]:not([right.value=''])`,
  `SwitchStatement[discriminant.property.name=${PROSE}]`,
].map((selector) => ({ selector, message }));

/** The same in templates, whose syntax has names of its own. */
const proseIsNotReadThere = [
  `Call[receiver.name=${PARTED}][receiver.receiver.name=${PROSE}]`,
  `Binary[operation=/^[!=]==?$/][left.name=${PROSE}][right.type='LiteralPrimitive']:not([right.value=''])`,
  `SwitchBlock[expression.ast.name=${PROSE}]`,
].map((selector) => ({ selector, message }));

export default tseslint.config(
  {
    ignores: [
      '**/node_modules',
      'dist',
      '.angular',
      '.near-spoke',
      'coverage',
      'test-results',
      '**/*.cjs',
      'server/src/db/migrations',
    ],
  },
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.recommended, ...tseslint.configs.stylistic],
    rules: shared,
  },
  {
    files: ['{core,contracts,server,web,command,instruments}/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: { 'no-restricted-syntax': ['error', ...proseIsNotRead] },
  },
  {
    // Numeric kernels walk typed arrays by indices their own loops bound.
    files: [
      'core/src/reflectometry/**/*.ts',
      'core/test/reflectometry/**/*.ts',
      'scripts/lib/{reflectometry,spice}-*.ts',
      'core/test/world/lattice-*.ts',
    ],
    rules: { '@typescript-eslint/no-non-null-assertion': 'off' },
  },
  { files: ['**/*.mjs'], extends: [...tseslint.configs.recommended], rules: shared },
  {
    files: ['web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/prefer-on-push-component-change-detection': 'error',
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'ns', style: 'kebab-case' }],
    },
  },
  {
    files: ['web/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: {
      'no-restricted-syntax': ['error', ...proseIsNotReadThere],
      // Spokes and tags of a drawing answer the pointer as a convenience; the same is offered by keys beside it.
      '@angular-eslint/template/click-events-have-key-events': 'off',
      '@angular-eslint/template/interactive-supports-focus': 'off',
      '@angular-eslint/template/mouse-events-have-key-events': 'off',
    },
  },
);
