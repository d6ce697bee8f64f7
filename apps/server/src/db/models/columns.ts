import { DataTypes } from 'sequelize';

// Kinds of columns. Sequelize writes into the attributes it is given: each column needs its own.

export const text = () => ({ type: DataTypes.TEXT, allowNull: false });
export const json = () => ({ type: DataTypes.JSONB, allowNull: false });
export const integer = () => ({ type: DataTypes.INTEGER, allowNull: false });
export const date = () => ({ type: DataTypes.DATE });
export const key = { primaryKey: true };
export const onlyCreated = { underscored: true, updatedAt: false } as const;
