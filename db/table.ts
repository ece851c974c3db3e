import { DataTypes, type Model, type ModelStatic, type Sequelize } from 'sequelize';
import type { Stored } from './stored/stored';

/** Column types in short; the schema itself lives in the migrations. */
export const column = {
  id: DataTypes.UUID,
  text: DataTypes.TEXT,
  int: DataTypes.INTEGER,
  number: DataTypes.DOUBLE,
  instant: DataTypes.DATE(6),
  day: DataTypes.DATEONLY,
  /** JSON that is kept and never read back by the program. */
  opaque: DataTypes.JSONB,
  bytes: DataTypes.BLOB,
  flag: DataTypes.BOOLEAN,
} as const;

type Column = (typeof column)[keyof typeof column];

/** JSON that is read back: by the one parser of its kind. */
export interface JsonColumn<T> {
  readonly json: Stored<T>;
}
export const json = <T>(of: Stored<T>): JsonColumn<T> => ({ json: of });

/** The column of a field: plain, or JSON of exactly its type. */
type ColumnOf<T> = Column | (unknown extends T ? never : JsonColumn<NonNullable<T>>);

export interface TableSpec<Row extends object> {
  readonly name: string;
  readonly key: readonly (keyof Row & string)[];
  readonly columns: { readonly [K in keyof Row & string]: ColumnOf<Row[K]> };
  /** The column the database numbers by itself. */
  readonly identity?: keyof Row & string;
}

export type Table<Row extends object> = ModelStatic<Model<Row, Partial<Row>>>;

/**
 * Where a table keeps the parsers of its JSON: on the table itself, by a symbol of the whole process. The framework may
 * load this module once per bundle while all of them share one set of tables, see `database()`.
 */
const jsonColumns = Symbol.for('outer-cairn JSON columns');
interface WithParsers {
  [jsonColumns]?: readonly (readonly [string, Stored<unknown>])[];
}

/** A row as it came from a table, with its JSON read by the parsers of its columns. */
export function parsed<Row extends object>(table: object, found: Row): Row {
  const out = found as Record<string, unknown>;
  for (const [name, kind] of (table as WithParsers)[jsonColumns] ?? [])
    if (out[name] !== null && out[name] !== undefined) out[name] = kind.read(out[name]);
  return found;
}

/** One Sequelize model over a table that a migration made. */
export function defineTable<Row extends object>(sequelize: Sequelize, spec: TableSpec<Row>): Table<Row> {
  const columns = Object.entries<Column | JsonColumn<unknown>>(spec.columns);
  const attributes = Object.fromEntries(
    columns.map(([name, type]) => [
      name,
      {
        ...('json' in type ? written(name, type.json) : { type }),
        primaryKey: (spec.key as readonly string[]).includes(name),
        ...(name === spec.identity && { autoIncrement: true, autoIncrementIdentity: true }),
      },
    ]),
  );
  const model = sequelize.define(
    spec.name,
    attributes as never,
    {
      modelName: spec.name,
      tableName: spec.name,
      timestamps: false,
      underscored: true,
    } as never,
  );
  (model as WithParsers)[jsonColumns] = columns.flatMap(([name, type]) =>
    'json' in type ? [[name, type.json] as const] : [],
  );
  return model as unknown as Table<Row>;
}

/** A JSON column that writes its version. */
const written = (name: string, kind: Stored<unknown>) => ({
  type: DataTypes.JSONB,
  set(this: Model, value: unknown) {
    this.setDataValue(name as never, (value === null ? null : kind.write(value)) as never);
  },
});
