import type { LibraryFile } from '#contract'

/** The outcomes that a file brings, each with where it stands and whether the library has it. */
export const FileOutcomes = ({ outcomes }: { outcomes: LibraryFile['outcomes'] }) => (
  <section className="mt-3" aria-label="Outcomes in the file">
    <table className="grid">
      <thead>
        <tr>
          <th>outcome</th>
          <th>statement</th>
          <th>group</th>
          <th>levels</th>
          <th>in the library</th>
        </tr>
      </thead>
      <tbody>
        {outcomes.map((o) => (
          <tr key={o.id}>
            <td>{o.title}</td>
            <td className="soft">{o.statement === o.title ? '' : o.statement}</td>
            <td className="soft">{(o.group ?? []).join(' › ')}</td>
            <td className="soft">{o.levels.map((l) => l.label).join(', ')}</td>
            <td>{o.known ? 'already' : 'new'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  </section>
)
