import { DataTypes, type Model, type ModelStatic, type Sequelize } from 'sequelize';

/** Column types in short; the schema itself lives in the migrations. */
export const column = {
  id: DataTypes.UUID,
  text: DataTypes.TEXT,
  int: DataTypes.INTEGER,
  number: DataTypes.DOUBLE,
  instant: DataTypes.DATE(6),
  day: DataTypes.DATEONLY,
  json: DataTypes.JSONB,
  bytes: DataTypes.BLOB,
  flag: DataTypes.BOOLEAN,
} as const;

type Column = (typeof column)[keyof typeof column];

export interface TableSpec<Row extends object> {
  readonly name: string;
  readonly key: readonly (keyof Row & string)[];
  readonly columns: Readonly<Record<keyof Row & string, Column>>;
  /** The column the database numbers by itself. */
  readonly identity?: keyof Row & string;
}

export type Table<Row extends object> = ModelStatic<Model<Row, Partial<Row>>>;

/** One Sequelize model over a table that a migration made. */
export function defineTable<Row extends object>(sequelize: Sequelize, spec: TableSpec<Row>): Table<Row> {
  const attributes = Object.fromEntries(
    Object.entries<Column>(spec.columns).map(([name, type]) => [
      name,
      {
        type,
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
  return model as unknown as Table<Row>;
}
