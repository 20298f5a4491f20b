import prettier from 'eslint-config-prettier';
import astro from 'eslint-plugin-astro';
import a11y from 'eslint-plugin-jsx-a11y';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import ts from 'typescript-eslint';

const WRITE_MARKUP = 'XML and HTML are written by the tag markup (formats/xml/markup.ts), which escapes what is put in.';

export default ts.config(
  { ignores: ['.data/**', '**/dist/**', '**/.astro/**', '**/node_modules/**', 'packages/store/migrations/**'] },
  ...ts.configs.strict,
  ...astro.configs.recommended,
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      // Flat typed arrays and regular expressions are indexed where the bounds are known.
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-invalid-void-type': 'off',
      '@typescript-eslint/unified-signatures': 'off',
      eqeqeq: 'error',
      'no-console': 'error',
      'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }],
      'no-restricted-imports': ['error', { paths: [{ name: 'lucide-react', message: 'Import icons singly: lucide-react/icons/…' }] }],
    },
  },
  {
    files: ['packages/core/src/**'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'process', 'fetch', 'setTimeout', 'setInterval'],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'Core takes the moment as a parameter.' },
        { object: 'Math', property: 'random', message: 'Core takes a seeded source as a parameter.' },
      ],
    },
  },
  {
    // XML and HTML are written by a tag that escapes what is put in (formats/xml/markup.ts), never by strings.
    files: ['packages/*/src/**/*.ts', 'apps/*/src/**/*.ts'],
    ignores: ['**/*.test.ts', '**/*.test-data.ts', 'apps/web/src/server/print-routes.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: String.raw`:not(TaggedTemplateExpression) > TemplateLiteral > TemplateElement[value.raw=/<\/?[a-zA-Z]/]`,
          message: WRITE_MARKUP,
        },
        { selector: String.raw`Literal[value=/<\/?[a-z][a-zA-Z]*[ >]/]`, message: WRITE_MARKUP },
      ],
    },
  },
  {
    files: ['apps/web/src/**/*.tsx'],
    ...a11y.flatConfigs.recommended,
    plugins: { 'jsx-a11y': a11y, 'react-hooks': hooks },
    rules: {
      ...a11y.flatConfigs.recommended.rules,
      ...hooks.configs['recommended-latest']?.rules,
      'jsx-a11y/no-noninteractive-element-to-interactive-role': 'off',
    },
  },
  { files: ['**/*.mjs', 'scripts/**', 'tests/**'], languageOptions: { globals: { ...globals.node } }, rules: { 'no-console': 'off' } },
  prettier,
);
