import { createNodeResolver, importX } from 'eslint-plugin-import-x'
import a11y from 'eslint-plugin-jsx-a11y'
import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

export default tseslint.config(
  { ignores: ['dist', 'node_modules', 'src/kit/api-types.d.ts'] },
  ...tseslint.configs.strictTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  a11y.flatConfigs.recommended,
  {
    plugins: { 'import-x': importX },
    settings: { 'import-x/resolver-next': [createNodeResolver({ extensions: ['.ts', '.tsx', '.js'] })] },
    rules: { 'import-x/no-cycle': 'error' },
  },
  {
    rules: {
      // A handler in one expression is read more easily than one in a block.
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      // What somebody opened on purpose takes the focus: a blank, a form, the door.
      'jsx-a11y/no-autofocus': 'off',
      // Regions that scroll are reached by the keyboard.
      'jsx-a11y/no-noninteractive-tabindex': [
        'error',
        { tags: ['ul'], roles: ['region', 'tabpanel', 'img', 'application'], allowExpressionValues: true },
      ],
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
    },
  },
  {
    plugins: { 'react-hooks': hooks },
    rules: { ...hooks.configs.recommended.rules, '@typescript-eslint/no-non-null-assertion': 'off' },
  },
  {
    // Widgets of the ARIA practices whose keys are handled by the element that has the focus: a combobox and its list, a
    // drawing that is moved, a long table, steps that are marked.
    files: [
      'src/drawings/Sheet.tsx',
      'src/gate/Blank.tsx',
      'src/kit/LongTable.tsx',
      'src/training/practical/PracticalPage.tsx',
      'src/training/practical/PracticalStep.tsx',
    ],
    rules: {
      'jsx-a11y/click-events-have-key-events': 'off',
      'jsx-a11y/interactive-supports-focus': 'off',
      'jsx-a11y/no-noninteractive-element-interactions': 'off',
      'jsx-a11y/no-static-element-interactions': 'off',
    },
  },
  {
    // A room shows itself to the others through its index only; its pages are fetched by the app once somebody goes there.
    files: ['src/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^(\\.\\./)+(watch|gate|house|people|materials|training|drawings|booking|ledger|incidents|settings)/.+',
              message: 'Import the room’s index instead.',
            },
          ],
        },
      ],
    },
  },
)
