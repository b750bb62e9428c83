import {
  DataTypes,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type ModelStatic,
  type Sequelize,
} from 'sequelize'

type Row<T extends Model> = InferAttributes<T>
type New<T extends Model> = InferCreationAttributes<T>

export interface FolioRow extends Model<Row<FolioRow>, New<FolioRow>> {
  id: string
  name: string
  document: string
  revision: number
  isDemo: boolean
  changedAt: Date
  deletedAt: CreationOptional<Date | null>
  /** What is known of the document without reading it; see `documents.ts`. */
  sheetCount: CreationOptional<number | null>
  condition: CreationOptional<'whole' | 'damaged' | null>
  writtenBy: CreationOptional<string | null>
  digest: CreationOptional<string | null>
  facts: CreationOptional<string | null>
  refs: CreationOptional<string | null>
}

export interface RevisionRow extends Model<Row<RevisionRow>, New<RevisionRow>> {
  id: CreationOptional<number>
  folioId: string
  number: number
  kind: 'saved' | 'refused'
  label: string
  /** Empty where the version is packed. */
  document: string
  packed: CreationOptional<Buffer | null>
  refs: CreationOptional<string | null>
  savedAt: Date
  saveKey: CreationOptional<string | null>
}

export interface DatasetRow extends Model<Row<DatasetRow>, New<DatasetRow>> {
  id: string
  rowCount: number
  geometry: string
  bytes: number
  storedAt: Date
}

export interface AssetRow extends Model<Row<AssetRow>, New<AssetRow>> {
  id: string
  folioId: string
  kind: string
  mime: string
  data: Buffer
  storedAt: Date
}

export interface PrintRow extends Model<Row<PrintRow>, New<PrintRow>> {
  id: string
  folioId: string
  sheetName: string
  settings: string
  revision: number
  fileName: string
  bytes: number
  madeAt: Date
}

export type Models = {
  folios: ModelStatic<FolioRow>
  revisions: ModelStatic<RevisionRow>
  datasets: ModelStatic<DatasetRow>
  assets: ModelStatic<AssetRow>
  prints: ModelStatic<PrintRow>
}

export function defineModels(sequelize: Sequelize): Models {
  const plain = { timestamps: false }
  const key = { type: DataTypes.STRING, primaryKey: true }
  const { TEXT, INTEGER, DATE, STRING, BOOLEAN, BLOB } = DataTypes
  return {
    folios: sequelize.define<FolioRow>(
      'folio',
      {
        id: key,
        name: TEXT,
        document: TEXT,
        revision: INTEGER,
        isDemo: BOOLEAN,
        changedAt: DATE,
        deletedAt: DATE,
        sheetCount: INTEGER,
        condition: STRING,
        writtenBy: STRING,
        digest: STRING,
        facts: TEXT,
        refs: TEXT,
      },
      { ...plain, tableName: 'folios' },
    ),
    revisions: sequelize.define<RevisionRow>(
      'revision',
      {
        id: { type: INTEGER, primaryKey: true, autoIncrement: true },
        folioId: STRING,
        number: INTEGER,
        kind: STRING,
        label: TEXT,
        document: TEXT,
        packed: BLOB,
        refs: TEXT,
        savedAt: DATE,
        saveKey: STRING,
      },
      { ...plain, tableName: 'revisions' },
    ),
    datasets: sequelize.define<DatasetRow>(
      'dataset',
      { id: key, rowCount: INTEGER, geometry: STRING, bytes: INTEGER, storedAt: DATE },
      { ...plain, tableName: 'datasets' },
    ),
    assets: sequelize.define<AssetRow>(
      'asset',
      { id: key, folioId: STRING, kind: STRING, mime: STRING, data: BLOB, storedAt: DATE },
      { ...plain, tableName: 'assets' },
    ),
    prints: sequelize.define<PrintRow>(
      'print',
      {
        id: key,
        folioId: STRING,
        sheetName: TEXT,
        settings: TEXT,
        revision: INTEGER,
        fileName: TEXT,
        bytes: INTEGER,
        madeAt: DATE,
      },
      { ...plain, tableName: 'prints' },
    ),
  }
}
