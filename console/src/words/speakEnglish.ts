import { speak } from '.'

// Before each test file: words are those of the English catalogue, as a reader sees them.
await speak('en')
