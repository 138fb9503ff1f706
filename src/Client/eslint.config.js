import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

export default tseslint.config(
  { ignores: ['dist', 'node_modules', 'src/shared/api-types.d.ts'] },
  ...tseslint.configs.strict,
  { plugins: { 'react-hooks': hooks }, rules: { ...hooks.configs.recommended.rules, '@typescript-eslint/no-non-null-assertion': 'off' } },
  {
    // A room shows itself to the others through its index only.
    files: ['src/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ regex: '^\\.\\./(watch|gate|house|people|materials|training|bench|booking|ledger)/.+', message: 'Import the room’s index instead.' }] },
      ],
    },
  },
)
