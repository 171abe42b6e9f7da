// Made by scripts/generate-validators.ts from the document schema. Do not edit.
var __getOwnPropNames = Object.getOwnPropertyNames;
var __commonJS = (cb, mod) => function __require() {
  try {
    return mod || (0, cb[__getOwnPropNames(cb)[0]])((mod = { exports: {} }).exports, mod), mod.exports;
  } catch (e) {
    throw mod = 0, e;
  }
};

// node_modules/ajv/dist/runtime/ucs2length.js
var require_ucs2length = __commonJS({
  "node_modules/ajv/dist/runtime/ucs2length.js"(exports) {
    "use strict";
    Object.defineProperty(exports, "__esModule", { value: true });
    function ucs2length(str) {
      const len = str.length;
      let length = 0;
      let pos = 0;
      let value;
      while (pos < len) {
        length++;
        value = str.charCodeAt(pos++);
        if (value >= 55296 && value <= 56319 && pos < len) {
          value = str.charCodeAt(pos);
          if ((value & 64512) === 56320)
            pos++;
        }
      }
      return length;
    }
    exports.default = ucs2length;
    ucs2length.code = 'require("ajv/dist/runtime/ucs2length").default';
  }
});

// <stdin>
var validate = validate10;
var stdin_default = validate10;
var schema11 = { "$schema": "http://json-schema.org/draft-07/schema#", "$id": "filaxis-graph-1", "title": "Filaxis document, version 1", "type": "object", "required": ["format", "version", "title", "nodes", "wires"], "additionalProperties": false, "properties": { "format": { "const": "filaxis-graph" }, "version": { "const": 1 }, "edition": { "type": "integer", "minimum": 1, "maximum": 3 }, "title": { "type": "string", "minLength": 1, "maxLength": 200 }, "dials": { "type": "array", "maxItems": 500, "items": { "type": "object", "required": ["id", "label", "kind", "value"], "additionalProperties": false, "properties": { "id": { "type": "string", "pattern": "^[A-Za-z][A-Za-z0-9_-]{0,63}$" }, "label": { "type": "string", "minLength": 1, "maxLength": 80 }, "kind": { "enum": ["number", "integer", "vector", "boolean", "choice", "colour", "text", "seed"] }, "value": { "type": ["number", "boolean", "string", "array"], "items": { "type": "number", "minimum": -1e12, "maximum": 1e12 }, "maxItems": 4, "maxLength": 2e3 }, "min": { "type": "number", "minimum": -1e12, "maximum": 1e12 }, "max": { "type": "number", "minimum": -1e12, "maximum": 1e12 }, "step": { "type": "number", "exclusiveMinimum": 0, "maximum": 1e12 }, "unit": { "type": "string", "maxLength": 20 }, "choices": { "type": "array", "items": { "type": "string", "maxLength": 80 }, "minItems": 1, "maxItems": 200 }, "group": { "type": "string", "maxLength": 80 } } } }, "nodes": { "type": "array", "maxItems": 5e3, "items": { "type": "object", "required": ["id", "type"], "additionalProperties": false, "properties": { "id": { "type": "string", "pattern": "^[A-Za-z][A-Za-z0-9_-]{0,63}$" }, "type": { "type": "string", "minLength": 1, "maxLength": 80 }, "name": { "type": "string", "minLength": 1, "maxLength": 60 }, "at": { "type": "array", "items": [{ "type": "number", "minimum": -1e12, "maximum": 1e12 }, { "type": "number", "minimum": -1e12, "maximum": 1e12 }], "minItems": 2, "additionalItems": false }, "settings": { "type": "object" } } } }, "wires": { "type": "array", "maxItems": 2e4, "items": { "type": "object", "required": ["from", "to"], "additionalProperties": false, "properties": { "from": { "type": "array", "items": [{ "type": "string", "pattern": "^[A-Za-z][A-Za-z0-9_-]{0,63}$" }, { "type": "string", "minLength": 1, "maxLength": 40 }], "minItems": 2, "additionalItems": false }, "to": { "type": "array", "items": [{ "type": "string", "pattern": "^[A-Za-z][A-Za-z0-9_-]{0,63}$" }, { "type": "string", "minLength": 1, "maxLength": 40 }], "minItems": 2, "additionalItems": false } } } }, "areas": { "type": "array", "maxItems": 1e3, "items": { "type": "object" } }, "notes": { "type": "array", "maxItems": 1e3, "items": { "type": "object" } }, "view": { "type": "object" }, "assets": { "type": "object", "propertyNames": { "pattern": "^[0-9a-f]{64}$" }, "additionalProperties": { "type": "object", "required": ["name", "bytes"], "additionalProperties": false, "properties": { "name": { "type": "string", "minLength": 1, "maxLength": 200 }, "bytes": { "type": "integer", "minimum": 0 }, "taken": { "type": "string", "pattern": "^\\d{4}-\\d{2}-\\d{2}T[0-9:.]+Z$" } } } } } };
var func2 = Object.prototype.hasOwnProperty;
var func3 = require_ucs2length().default;
var pattern0 = new RegExp("^[A-Za-z][A-Za-z0-9_-]{0,63}$", "u");
var pattern4 = new RegExp("^[0-9a-f]{64}$", "u");
var pattern5 = new RegExp("^\\d{4}-\\d{2}-\\d{2}T[0-9:.]+Z$", "u");
function validate10(data, { instancePath = "", parentData, parentDataProperty, rootData = data } = {}) {
  ;
  let vErrors = null;
  let errors = 0;
  if (errors === 0) {
    if (data && typeof data == "object" && !Array.isArray(data)) {
      let missing0;
      if (data.format === void 0 && (missing0 = "format") || data.version === void 0 && (missing0 = "version") || data.title === void 0 && (missing0 = "title") || data.nodes === void 0 && (missing0 = "nodes") || data.wires === void 0 && (missing0 = "wires")) {
        validate10.errors = [{ instancePath, schemaPath: "#/required", keyword: "required", params: { missingProperty: missing0 }, message: "must have required property '" + missing0 + "'" }];
        return false;
      } else {
        const _errs1 = errors;
        for (const key0 in data) {
          if (!func2.call(schema11.properties, key0)) {
            validate10.errors = [{ instancePath, schemaPath: "#/additionalProperties", keyword: "additionalProperties", params: { additionalProperty: key0 }, message: "must NOT have additional properties" }];
            return false;
            break;
          }
        }
        if (_errs1 === errors) {
          if (data.format !== void 0) {
            const _errs2 = errors;
            if ("filaxis-graph" !== data.format) {
              validate10.errors = [{ instancePath: instancePath + "/format", schemaPath: "#/properties/format/const", keyword: "const", params: { allowedValue: "filaxis-graph" }, message: "must be equal to constant" }];
              return false;
            }
            var valid0 = _errs2 === errors;
          } else {
            var valid0 = true;
          }
          if (valid0) {
            if (data.version !== void 0) {
              const _errs3 = errors;
              if (1 !== data.version) {
                validate10.errors = [{ instancePath: instancePath + "/version", schemaPath: "#/properties/version/const", keyword: "const", params: { allowedValue: 1 }, message: "must be equal to constant" }];
                return false;
              }
              var valid0 = _errs3 === errors;
            } else {
              var valid0 = true;
            }
            if (valid0) {
              if (data.edition !== void 0) {
                let data2 = data.edition;
                const _errs4 = errors;
                if (!(typeof data2 == "number" && (!(data2 % 1) && !isNaN(data2)))) {
                  validate10.errors = [{ instancePath: instancePath + "/edition", schemaPath: "#/properties/edition/type", keyword: "type", params: { type: "integer" }, message: "must be integer" }];
                  return false;
                }
                if (errors === _errs4) {
                  if (typeof data2 == "number") {
                    if (data2 > 3 || isNaN(data2)) {
                      validate10.errors = [{ instancePath: instancePath + "/edition", schemaPath: "#/properties/edition/maximum", keyword: "maximum", params: { comparison: "<=", limit: 3 }, message: "must be <= 3" }];
                      return false;
                    } else {
                      if (data2 < 1 || isNaN(data2)) {
                        validate10.errors = [{ instancePath: instancePath + "/edition", schemaPath: "#/properties/edition/minimum", keyword: "minimum", params: { comparison: ">=", limit: 1 }, message: "must be >= 1" }];
                        return false;
                      }
                    }
                  }
                }
                var valid0 = _errs4 === errors;
              } else {
                var valid0 = true;
              }
              if (valid0) {
                if (data.title !== void 0) {
                  let data3 = data.title;
                  const _errs6 = errors;
                  if (errors === _errs6) {
                    if (typeof data3 === "string") {
                      if (func3(data3) > 200) {
                        validate10.errors = [{ instancePath: instancePath + "/title", schemaPath: "#/properties/title/maxLength", keyword: "maxLength", params: { limit: 200 }, message: "must NOT have more than 200 characters" }];
                        return false;
                      } else {
                        if (func3(data3) < 1) {
                          validate10.errors = [{ instancePath: instancePath + "/title", schemaPath: "#/properties/title/minLength", keyword: "minLength", params: { limit: 1 }, message: "must NOT have fewer than 1 characters" }];
                          return false;
                        }
                      }
                    } else {
                      validate10.errors = [{ instancePath: instancePath + "/title", schemaPath: "#/properties/title/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                      return false;
                    }
                  }
                  var valid0 = _errs6 === errors;
                } else {
                  var valid0 = true;
                }
                if (valid0) {
                  if (data.dials !== void 0) {
                    let data4 = data.dials;
                    const _errs8 = errors;
                    if (errors === _errs8) {
                      if (Array.isArray(data4)) {
                        if (data4.length > 500) {
                          validate10.errors = [{ instancePath: instancePath + "/dials", schemaPath: "#/properties/dials/maxItems", keyword: "maxItems", params: { limit: 500 }, message: "must NOT have more than 500 items" }];
                          return false;
                        } else {
                          var valid1 = true;
                          const len0 = data4.length;
                          for (let i0 = 0; i0 < len0; i0++) {
                            let data5 = data4[i0];
                            const _errs10 = errors;
                            if (errors === _errs10) {
                              if (data5 && typeof data5 == "object" && !Array.isArray(data5)) {
                                let missing1;
                                if (data5.id === void 0 && (missing1 = "id") || data5.label === void 0 && (missing1 = "label") || data5.kind === void 0 && (missing1 = "kind") || data5.value === void 0 && (missing1 = "value")) {
                                  validate10.errors = [{ instancePath: instancePath + "/dials/" + i0, schemaPath: "#/properties/dials/items/required", keyword: "required", params: { missingProperty: missing1 }, message: "must have required property '" + missing1 + "'" }];
                                  return false;
                                } else {
                                  const _errs12 = errors;
                                  for (const key1 in data5) {
                                    if (!func2.call(schema11.properties.dials.items.properties, key1)) {
                                      validate10.errors = [{ instancePath: instancePath + "/dials/" + i0, schemaPath: "#/properties/dials/items/additionalProperties", keyword: "additionalProperties", params: { additionalProperty: key1 }, message: "must NOT have additional properties" }];
                                      return false;
                                      break;
                                    }
                                  }
                                  if (_errs12 === errors) {
                                    if (data5.id !== void 0) {
                                      let data6 = data5.id;
                                      const _errs13 = errors;
                                      if (errors === _errs13) {
                                        if (typeof data6 === "string") {
                                          if (!pattern0.test(data6)) {
                                            validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/id", schemaPath: "#/properties/dials/items/properties/id/pattern", keyword: "pattern", params: { pattern: "^[A-Za-z][A-Za-z0-9_-]{0,63}$" }, message: 'must match pattern "^[A-Za-z][A-Za-z0-9_-]{0,63}$"' }];
                                            return false;
                                          }
                                        } else {
                                          validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/id", schemaPath: "#/properties/dials/items/properties/id/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                          return false;
                                        }
                                      }
                                      var valid2 = _errs13 === errors;
                                    } else {
                                      var valid2 = true;
                                    }
                                    if (valid2) {
                                      if (data5.label !== void 0) {
                                        let data7 = data5.label;
                                        const _errs15 = errors;
                                        if (errors === _errs15) {
                                          if (typeof data7 === "string") {
                                            if (func3(data7) > 80) {
                                              validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/label", schemaPath: "#/properties/dials/items/properties/label/maxLength", keyword: "maxLength", params: { limit: 80 }, message: "must NOT have more than 80 characters" }];
                                              return false;
                                            } else {
                                              if (func3(data7) < 1) {
                                                validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/label", schemaPath: "#/properties/dials/items/properties/label/minLength", keyword: "minLength", params: { limit: 1 }, message: "must NOT have fewer than 1 characters" }];
                                                return false;
                                              }
                                            }
                                          } else {
                                            validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/label", schemaPath: "#/properties/dials/items/properties/label/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                            return false;
                                          }
                                        }
                                        var valid2 = _errs15 === errors;
                                      } else {
                                        var valid2 = true;
                                      }
                                      if (valid2) {
                                        if (data5.kind !== void 0) {
                                          let data8 = data5.kind;
                                          const _errs17 = errors;
                                          if (!(data8 === "number" || data8 === "integer" || data8 === "vector" || data8 === "boolean" || data8 === "choice" || data8 === "colour" || data8 === "text" || data8 === "seed")) {
                                            validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/kind", schemaPath: "#/properties/dials/items/properties/kind/enum", keyword: "enum", params: { allowedValues: schema11.properties.dials.items.properties.kind.enum }, message: "must be equal to one of the allowed values" }];
                                            return false;
                                          }
                                          var valid2 = _errs17 === errors;
                                        } else {
                                          var valid2 = true;
                                        }
                                        if (valid2) {
                                          if (data5.value !== void 0) {
                                            let data9 = data5.value;
                                            const _errs18 = errors;
                                            if (!(typeof data9 == "number") && typeof data9 !== "boolean" && typeof data9 !== "string" && !Array.isArray(data9)) {
                                              validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/value", schemaPath: "#/properties/dials/items/properties/value/type", keyword: "type", params: { type: schema11.properties.dials.items.properties.value.type }, message: "must be number,boolean,string,array" }];
                                              return false;
                                            }
                                            if (errors === _errs18) {
                                              if (typeof data9 === "string") {
                                                if (func3(data9) > 2e3) {
                                                  validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/value", schemaPath: "#/properties/dials/items/properties/value/maxLength", keyword: "maxLength", params: { limit: 2e3 }, message: "must NOT have more than 2000 characters" }];
                                                  return false;
                                                }
                                              }
                                              if (errors === _errs18) {
                                                if (Array.isArray(data9)) {
                                                  if (data9.length > 4) {
                                                    validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/value", schemaPath: "#/properties/dials/items/properties/value/maxItems", keyword: "maxItems", params: { limit: 4 }, message: "must NOT have more than 4 items" }];
                                                    return false;
                                                  } else {
                                                    var valid3 = true;
                                                    const len1 = data9.length;
                                                    for (let i1 = 0; i1 < len1; i1++) {
                                                      let data10 = data9[i1];
                                                      const _errs20 = errors;
                                                      if (errors === _errs20) {
                                                        if (typeof data10 == "number") {
                                                          if (data10 > 1e12 || isNaN(data10)) {
                                                            validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/value/" + i1, schemaPath: "#/properties/dials/items/properties/value/items/maximum", keyword: "maximum", params: { comparison: "<=", limit: 1e12 }, message: "must be <= 1000000000000" }];
                                                            return false;
                                                          } else {
                                                            if (data10 < -1e12 || isNaN(data10)) {
                                                              validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/value/" + i1, schemaPath: "#/properties/dials/items/properties/value/items/minimum", keyword: "minimum", params: { comparison: ">=", limit: -1e12 }, message: "must be >= -1000000000000" }];
                                                              return false;
                                                            }
                                                          }
                                                        } else {
                                                          validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/value/" + i1, schemaPath: "#/properties/dials/items/properties/value/items/type", keyword: "type", params: { type: "number" }, message: "must be number" }];
                                                          return false;
                                                        }
                                                      }
                                                      var valid3 = _errs20 === errors;
                                                      if (!valid3) {
                                                        break;
                                                      }
                                                    }
                                                  }
                                                }
                                              }
                                            }
                                            var valid2 = _errs18 === errors;
                                          } else {
                                            var valid2 = true;
                                          }
                                          if (valid2) {
                                            if (data5.min !== void 0) {
                                              let data11 = data5.min;
                                              const _errs22 = errors;
                                              if (errors === _errs22) {
                                                if (typeof data11 == "number") {
                                                  if (data11 > 1e12 || isNaN(data11)) {
                                                    validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/min", schemaPath: "#/properties/dials/items/properties/min/maximum", keyword: "maximum", params: { comparison: "<=", limit: 1e12 }, message: "must be <= 1000000000000" }];
                                                    return false;
                                                  } else {
                                                    if (data11 < -1e12 || isNaN(data11)) {
                                                      validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/min", schemaPath: "#/properties/dials/items/properties/min/minimum", keyword: "minimum", params: { comparison: ">=", limit: -1e12 }, message: "must be >= -1000000000000" }];
                                                      return false;
                                                    }
                                                  }
                                                } else {
                                                  validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/min", schemaPath: "#/properties/dials/items/properties/min/type", keyword: "type", params: { type: "number" }, message: "must be number" }];
                                                  return false;
                                                }
                                              }
                                              var valid2 = _errs22 === errors;
                                            } else {
                                              var valid2 = true;
                                            }
                                            if (valid2) {
                                              if (data5.max !== void 0) {
                                                let data12 = data5.max;
                                                const _errs24 = errors;
                                                if (errors === _errs24) {
                                                  if (typeof data12 == "number") {
                                                    if (data12 > 1e12 || isNaN(data12)) {
                                                      validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/max", schemaPath: "#/properties/dials/items/properties/max/maximum", keyword: "maximum", params: { comparison: "<=", limit: 1e12 }, message: "must be <= 1000000000000" }];
                                                      return false;
                                                    } else {
                                                      if (data12 < -1e12 || isNaN(data12)) {
                                                        validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/max", schemaPath: "#/properties/dials/items/properties/max/minimum", keyword: "minimum", params: { comparison: ">=", limit: -1e12 }, message: "must be >= -1000000000000" }];
                                                        return false;
                                                      }
                                                    }
                                                  } else {
                                                    validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/max", schemaPath: "#/properties/dials/items/properties/max/type", keyword: "type", params: { type: "number" }, message: "must be number" }];
                                                    return false;
                                                  }
                                                }
                                                var valid2 = _errs24 === errors;
                                              } else {
                                                var valid2 = true;
                                              }
                                              if (valid2) {
                                                if (data5.step !== void 0) {
                                                  let data13 = data5.step;
                                                  const _errs26 = errors;
                                                  if (errors === _errs26) {
                                                    if (typeof data13 == "number") {
                                                      if (data13 > 1e12 || isNaN(data13)) {
                                                        validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/step", schemaPath: "#/properties/dials/items/properties/step/maximum", keyword: "maximum", params: { comparison: "<=", limit: 1e12 }, message: "must be <= 1000000000000" }];
                                                        return false;
                                                      } else {
                                                        if (data13 <= 0 || isNaN(data13)) {
                                                          validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/step", schemaPath: "#/properties/dials/items/properties/step/exclusiveMinimum", keyword: "exclusiveMinimum", params: { comparison: ">", limit: 0 }, message: "must be > 0" }];
                                                          return false;
                                                        }
                                                      }
                                                    } else {
                                                      validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/step", schemaPath: "#/properties/dials/items/properties/step/type", keyword: "type", params: { type: "number" }, message: "must be number" }];
                                                      return false;
                                                    }
                                                  }
                                                  var valid2 = _errs26 === errors;
                                                } else {
                                                  var valid2 = true;
                                                }
                                                if (valid2) {
                                                  if (data5.unit !== void 0) {
                                                    let data14 = data5.unit;
                                                    const _errs28 = errors;
                                                    if (errors === _errs28) {
                                                      if (typeof data14 === "string") {
                                                        if (func3(data14) > 20) {
                                                          validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/unit", schemaPath: "#/properties/dials/items/properties/unit/maxLength", keyword: "maxLength", params: { limit: 20 }, message: "must NOT have more than 20 characters" }];
                                                          return false;
                                                        }
                                                      } else {
                                                        validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/unit", schemaPath: "#/properties/dials/items/properties/unit/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                                        return false;
                                                      }
                                                    }
                                                    var valid2 = _errs28 === errors;
                                                  } else {
                                                    var valid2 = true;
                                                  }
                                                  if (valid2) {
                                                    if (data5.choices !== void 0) {
                                                      let data15 = data5.choices;
                                                      const _errs30 = errors;
                                                      if (errors === _errs30) {
                                                        if (Array.isArray(data15)) {
                                                          if (data15.length > 200) {
                                                            validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/choices", schemaPath: "#/properties/dials/items/properties/choices/maxItems", keyword: "maxItems", params: { limit: 200 }, message: "must NOT have more than 200 items" }];
                                                            return false;
                                                          } else {
                                                            if (data15.length < 1) {
                                                              validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/choices", schemaPath: "#/properties/dials/items/properties/choices/minItems", keyword: "minItems", params: { limit: 1 }, message: "must NOT have fewer than 1 items" }];
                                                              return false;
                                                            } else {
                                                              var valid4 = true;
                                                              const len2 = data15.length;
                                                              for (let i2 = 0; i2 < len2; i2++) {
                                                                let data16 = data15[i2];
                                                                const _errs32 = errors;
                                                                if (errors === _errs32) {
                                                                  if (typeof data16 === "string") {
                                                                    if (func3(data16) > 80) {
                                                                      validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/choices/" + i2, schemaPath: "#/properties/dials/items/properties/choices/items/maxLength", keyword: "maxLength", params: { limit: 80 }, message: "must NOT have more than 80 characters" }];
                                                                      return false;
                                                                    }
                                                                  } else {
                                                                    validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/choices/" + i2, schemaPath: "#/properties/dials/items/properties/choices/items/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                                                    return false;
                                                                  }
                                                                }
                                                                var valid4 = _errs32 === errors;
                                                                if (!valid4) {
                                                                  break;
                                                                }
                                                              }
                                                            }
                                                          }
                                                        } else {
                                                          validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/choices", schemaPath: "#/properties/dials/items/properties/choices/type", keyword: "type", params: { type: "array" }, message: "must be array" }];
                                                          return false;
                                                        }
                                                      }
                                                      var valid2 = _errs30 === errors;
                                                    } else {
                                                      var valid2 = true;
                                                    }
                                                    if (valid2) {
                                                      if (data5.group !== void 0) {
                                                        let data17 = data5.group;
                                                        const _errs34 = errors;
                                                        if (errors === _errs34) {
                                                          if (typeof data17 === "string") {
                                                            if (func3(data17) > 80) {
                                                              validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/group", schemaPath: "#/properties/dials/items/properties/group/maxLength", keyword: "maxLength", params: { limit: 80 }, message: "must NOT have more than 80 characters" }];
                                                              return false;
                                                            }
                                                          } else {
                                                            validate10.errors = [{ instancePath: instancePath + "/dials/" + i0 + "/group", schemaPath: "#/properties/dials/items/properties/group/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                                            return false;
                                                          }
                                                        }
                                                        var valid2 = _errs34 === errors;
                                                      } else {
                                                        var valid2 = true;
                                                      }
                                                    }
                                                  }
                                                }
                                              }
                                            }
                                          }
                                        }
                                      }
                                    }
                                  }
                                }
                              } else {
                                validate10.errors = [{ instancePath: instancePath + "/dials/" + i0, schemaPath: "#/properties/dials/items/type", keyword: "type", params: { type: "object" }, message: "must be object" }];
                                return false;
                              }
                            }
                            var valid1 = _errs10 === errors;
                            if (!valid1) {
                              break;
                            }
                          }
                        }
                      } else {
                        validate10.errors = [{ instancePath: instancePath + "/dials", schemaPath: "#/properties/dials/type", keyword: "type", params: { type: "array" }, message: "must be array" }];
                        return false;
                      }
                    }
                    var valid0 = _errs8 === errors;
                  } else {
                    var valid0 = true;
                  }
                  if (valid0) {
                    if (data.nodes !== void 0) {
                      let data18 = data.nodes;
                      const _errs36 = errors;
                      if (errors === _errs36) {
                        if (Array.isArray(data18)) {
                          if (data18.length > 5e3) {
                            validate10.errors = [{ instancePath: instancePath + "/nodes", schemaPath: "#/properties/nodes/maxItems", keyword: "maxItems", params: { limit: 5e3 }, message: "must NOT have more than 5000 items" }];
                            return false;
                          } else {
                            var valid5 = true;
                            const len3 = data18.length;
                            for (let i3 = 0; i3 < len3; i3++) {
                              let data19 = data18[i3];
                              const _errs38 = errors;
                              if (errors === _errs38) {
                                if (data19 && typeof data19 == "object" && !Array.isArray(data19)) {
                                  let missing2;
                                  if (data19.id === void 0 && (missing2 = "id") || data19.type === void 0 && (missing2 = "type")) {
                                    validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3, schemaPath: "#/properties/nodes/items/required", keyword: "required", params: { missingProperty: missing2 }, message: "must have required property '" + missing2 + "'" }];
                                    return false;
                                  } else {
                                    const _errs40 = errors;
                                    for (const key2 in data19) {
                                      if (!(key2 === "id" || key2 === "type" || key2 === "name" || key2 === "at" || key2 === "settings")) {
                                        validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3, schemaPath: "#/properties/nodes/items/additionalProperties", keyword: "additionalProperties", params: { additionalProperty: key2 }, message: "must NOT have additional properties" }];
                                        return false;
                                        break;
                                      }
                                    }
                                    if (_errs40 === errors) {
                                      if (data19.id !== void 0) {
                                        let data20 = data19.id;
                                        const _errs41 = errors;
                                        if (errors === _errs41) {
                                          if (typeof data20 === "string") {
                                            if (!pattern0.test(data20)) {
                                              validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/id", schemaPath: "#/properties/nodes/items/properties/id/pattern", keyword: "pattern", params: { pattern: "^[A-Za-z][A-Za-z0-9_-]{0,63}$" }, message: 'must match pattern "^[A-Za-z][A-Za-z0-9_-]{0,63}$"' }];
                                              return false;
                                            }
                                          } else {
                                            validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/id", schemaPath: "#/properties/nodes/items/properties/id/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                            return false;
                                          }
                                        }
                                        var valid6 = _errs41 === errors;
                                      } else {
                                        var valid6 = true;
                                      }
                                      if (valid6) {
                                        if (data19.type !== void 0) {
                                          let data21 = data19.type;
                                          const _errs43 = errors;
                                          if (errors === _errs43) {
                                            if (typeof data21 === "string") {
                                              if (func3(data21) > 80) {
                                                validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/type", schemaPath: "#/properties/nodes/items/properties/type/maxLength", keyword: "maxLength", params: { limit: 80 }, message: "must NOT have more than 80 characters" }];
                                                return false;
                                              } else {
                                                if (func3(data21) < 1) {
                                                  validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/type", schemaPath: "#/properties/nodes/items/properties/type/minLength", keyword: "minLength", params: { limit: 1 }, message: "must NOT have fewer than 1 characters" }];
                                                  return false;
                                                }
                                              }
                                            } else {
                                              validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/type", schemaPath: "#/properties/nodes/items/properties/type/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                              return false;
                                            }
                                          }
                                          var valid6 = _errs43 === errors;
                                        } else {
                                          var valid6 = true;
                                        }
                                        if (valid6) {
                                          if (data19.name !== void 0) {
                                            let data22 = data19.name;
                                            const _errs45 = errors;
                                            if (errors === _errs45) {
                                              if (typeof data22 === "string") {
                                                if (func3(data22) > 60) {
                                                  validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/name", schemaPath: "#/properties/nodes/items/properties/name/maxLength", keyword: "maxLength", params: { limit: 60 }, message: "must NOT have more than 60 characters" }];
                                                  return false;
                                                } else {
                                                  if (func3(data22) < 1) {
                                                    validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/name", schemaPath: "#/properties/nodes/items/properties/name/minLength", keyword: "minLength", params: { limit: 1 }, message: "must NOT have fewer than 1 characters" }];
                                                    return false;
                                                  }
                                                }
                                              } else {
                                                validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/name", schemaPath: "#/properties/nodes/items/properties/name/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                                return false;
                                              }
                                            }
                                            var valid6 = _errs45 === errors;
                                          } else {
                                            var valid6 = true;
                                          }
                                          if (valid6) {
                                            if (data19.at !== void 0) {
                                              let data23 = data19.at;
                                              const _errs47 = errors;
                                              if (errors === _errs47) {
                                                if (Array.isArray(data23)) {
                                                  if (data23.length < 2) {
                                                    validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/at", schemaPath: "#/properties/nodes/items/properties/at/minItems", keyword: "minItems", params: { limit: 2 }, message: "must NOT have fewer than 2 items" }];
                                                    return false;
                                                  } else {
                                                    const len4 = data23.length;
                                                    if (!(len4 <= 2)) {
                                                      validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/at", schemaPath: "#/properties/nodes/items/properties/at/additionalItems", keyword: "additionalItems", params: { limit: 2 }, message: "must NOT have more than 2 items" }];
                                                      return false;
                                                    } else {
                                                      const len5 = data23.length;
                                                      if (len5 > 0) {
                                                        let data24 = data23[0];
                                                        const _errs49 = errors;
                                                        if (errors === _errs49) {
                                                          if (typeof data24 == "number") {
                                                            if (data24 > 1e12 || isNaN(data24)) {
                                                              validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/at/0", schemaPath: "#/properties/nodes/items/properties/at/items/0/maximum", keyword: "maximum", params: { comparison: "<=", limit: 1e12 }, message: "must be <= 1000000000000" }];
                                                              return false;
                                                            } else {
                                                              if (data24 < -1e12 || isNaN(data24)) {
                                                                validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/at/0", schemaPath: "#/properties/nodes/items/properties/at/items/0/minimum", keyword: "minimum", params: { comparison: ">=", limit: -1e12 }, message: "must be >= -1000000000000" }];
                                                                return false;
                                                              }
                                                            }
                                                          } else {
                                                            validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/at/0", schemaPath: "#/properties/nodes/items/properties/at/items/0/type", keyword: "type", params: { type: "number" }, message: "must be number" }];
                                                            return false;
                                                          }
                                                        }
                                                        var valid7 = _errs49 === errors;
                                                      }
                                                      if (valid7) {
                                                        if (len5 > 1) {
                                                          let data25 = data23[1];
                                                          const _errs51 = errors;
                                                          if (errors === _errs51) {
                                                            if (typeof data25 == "number") {
                                                              if (data25 > 1e12 || isNaN(data25)) {
                                                                validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/at/1", schemaPath: "#/properties/nodes/items/properties/at/items/1/maximum", keyword: "maximum", params: { comparison: "<=", limit: 1e12 }, message: "must be <= 1000000000000" }];
                                                                return false;
                                                              } else {
                                                                if (data25 < -1e12 || isNaN(data25)) {
                                                                  validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/at/1", schemaPath: "#/properties/nodes/items/properties/at/items/1/minimum", keyword: "minimum", params: { comparison: ">=", limit: -1e12 }, message: "must be >= -1000000000000" }];
                                                                  return false;
                                                                }
                                                              }
                                                            } else {
                                                              validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/at/1", schemaPath: "#/properties/nodes/items/properties/at/items/1/type", keyword: "type", params: { type: "number" }, message: "must be number" }];
                                                              return false;
                                                            }
                                                          }
                                                          var valid7 = _errs51 === errors;
                                                        }
                                                      }
                                                    }
                                                  }
                                                } else {
                                                  validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/at", schemaPath: "#/properties/nodes/items/properties/at/type", keyword: "type", params: { type: "array" }, message: "must be array" }];
                                                  return false;
                                                }
                                              }
                                              var valid6 = _errs47 === errors;
                                            } else {
                                              var valid6 = true;
                                            }
                                            if (valid6) {
                                              if (data19.settings !== void 0) {
                                                let data26 = data19.settings;
                                                const _errs53 = errors;
                                                if (!(data26 && typeof data26 == "object" && !Array.isArray(data26))) {
                                                  validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3 + "/settings", schemaPath: "#/properties/nodes/items/properties/settings/type", keyword: "type", params: { type: "object" }, message: "must be object" }];
                                                  return false;
                                                }
                                                var valid6 = _errs53 === errors;
                                              } else {
                                                var valid6 = true;
                                              }
                                            }
                                          }
                                        }
                                      }
                                    }
                                  }
                                } else {
                                  validate10.errors = [{ instancePath: instancePath + "/nodes/" + i3, schemaPath: "#/properties/nodes/items/type", keyword: "type", params: { type: "object" }, message: "must be object" }];
                                  return false;
                                }
                              }
                              var valid5 = _errs38 === errors;
                              if (!valid5) {
                                break;
                              }
                            }
                          }
                        } else {
                          validate10.errors = [{ instancePath: instancePath + "/nodes", schemaPath: "#/properties/nodes/type", keyword: "type", params: { type: "array" }, message: "must be array" }];
                          return false;
                        }
                      }
                      var valid0 = _errs36 === errors;
                    } else {
                      var valid0 = true;
                    }
                    if (valid0) {
                      if (data.wires !== void 0) {
                        let data27 = data.wires;
                        const _errs55 = errors;
                        if (errors === _errs55) {
                          if (Array.isArray(data27)) {
                            if (data27.length > 2e4) {
                              validate10.errors = [{ instancePath: instancePath + "/wires", schemaPath: "#/properties/wires/maxItems", keyword: "maxItems", params: { limit: 2e4 }, message: "must NOT have more than 20000 items" }];
                              return false;
                            } else {
                              var valid8 = true;
                              const len6 = data27.length;
                              for (let i4 = 0; i4 < len6; i4++) {
                                let data28 = data27[i4];
                                const _errs57 = errors;
                                if (errors === _errs57) {
                                  if (data28 && typeof data28 == "object" && !Array.isArray(data28)) {
                                    let missing3;
                                    if (data28.from === void 0 && (missing3 = "from") || data28.to === void 0 && (missing3 = "to")) {
                                      validate10.errors = [{ instancePath: instancePath + "/wires/" + i4, schemaPath: "#/properties/wires/items/required", keyword: "required", params: { missingProperty: missing3 }, message: "must have required property '" + missing3 + "'" }];
                                      return false;
                                    } else {
                                      const _errs59 = errors;
                                      for (const key3 in data28) {
                                        if (!(key3 === "from" || key3 === "to")) {
                                          validate10.errors = [{ instancePath: instancePath + "/wires/" + i4, schemaPath: "#/properties/wires/items/additionalProperties", keyword: "additionalProperties", params: { additionalProperty: key3 }, message: "must NOT have additional properties" }];
                                          return false;
                                          break;
                                        }
                                      }
                                      if (_errs59 === errors) {
                                        if (data28.from !== void 0) {
                                          let data29 = data28.from;
                                          const _errs60 = errors;
                                          if (errors === _errs60) {
                                            if (Array.isArray(data29)) {
                                              if (data29.length < 2) {
                                                validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/from", schemaPath: "#/properties/wires/items/properties/from/minItems", keyword: "minItems", params: { limit: 2 }, message: "must NOT have fewer than 2 items" }];
                                                return false;
                                              } else {
                                                const len7 = data29.length;
                                                if (!(len7 <= 2)) {
                                                  validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/from", schemaPath: "#/properties/wires/items/properties/from/additionalItems", keyword: "additionalItems", params: { limit: 2 }, message: "must NOT have more than 2 items" }];
                                                  return false;
                                                } else {
                                                  const len8 = data29.length;
                                                  if (len8 > 0) {
                                                    let data30 = data29[0];
                                                    const _errs62 = errors;
                                                    if (errors === _errs62) {
                                                      if (typeof data30 === "string") {
                                                        if (!pattern0.test(data30)) {
                                                          validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/from/0", schemaPath: "#/properties/wires/items/properties/from/items/0/pattern", keyword: "pattern", params: { pattern: "^[A-Za-z][A-Za-z0-9_-]{0,63}$" }, message: 'must match pattern "^[A-Za-z][A-Za-z0-9_-]{0,63}$"' }];
                                                          return false;
                                                        }
                                                      } else {
                                                        validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/from/0", schemaPath: "#/properties/wires/items/properties/from/items/0/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                                        return false;
                                                      }
                                                    }
                                                    var valid10 = _errs62 === errors;
                                                  }
                                                  if (valid10) {
                                                    if (len8 > 1) {
                                                      let data31 = data29[1];
                                                      const _errs64 = errors;
                                                      if (errors === _errs64) {
                                                        if (typeof data31 === "string") {
                                                          if (func3(data31) > 40) {
                                                            validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/from/1", schemaPath: "#/properties/wires/items/properties/from/items/1/maxLength", keyword: "maxLength", params: { limit: 40 }, message: "must NOT have more than 40 characters" }];
                                                            return false;
                                                          } else {
                                                            if (func3(data31) < 1) {
                                                              validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/from/1", schemaPath: "#/properties/wires/items/properties/from/items/1/minLength", keyword: "minLength", params: { limit: 1 }, message: "must NOT have fewer than 1 characters" }];
                                                              return false;
                                                            }
                                                          }
                                                        } else {
                                                          validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/from/1", schemaPath: "#/properties/wires/items/properties/from/items/1/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                                          return false;
                                                        }
                                                      }
                                                      var valid10 = _errs64 === errors;
                                                    }
                                                  }
                                                }
                                              }
                                            } else {
                                              validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/from", schemaPath: "#/properties/wires/items/properties/from/type", keyword: "type", params: { type: "array" }, message: "must be array" }];
                                              return false;
                                            }
                                          }
                                          var valid9 = _errs60 === errors;
                                        } else {
                                          var valid9 = true;
                                        }
                                        if (valid9) {
                                          if (data28.to !== void 0) {
                                            let data32 = data28.to;
                                            const _errs66 = errors;
                                            if (errors === _errs66) {
                                              if (Array.isArray(data32)) {
                                                if (data32.length < 2) {
                                                  validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/to", schemaPath: "#/properties/wires/items/properties/to/minItems", keyword: "minItems", params: { limit: 2 }, message: "must NOT have fewer than 2 items" }];
                                                  return false;
                                                } else {
                                                  const len9 = data32.length;
                                                  if (!(len9 <= 2)) {
                                                    validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/to", schemaPath: "#/properties/wires/items/properties/to/additionalItems", keyword: "additionalItems", params: { limit: 2 }, message: "must NOT have more than 2 items" }];
                                                    return false;
                                                  } else {
                                                    const len10 = data32.length;
                                                    if (len10 > 0) {
                                                      let data33 = data32[0];
                                                      const _errs68 = errors;
                                                      if (errors === _errs68) {
                                                        if (typeof data33 === "string") {
                                                          if (!pattern0.test(data33)) {
                                                            validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/to/0", schemaPath: "#/properties/wires/items/properties/to/items/0/pattern", keyword: "pattern", params: { pattern: "^[A-Za-z][A-Za-z0-9_-]{0,63}$" }, message: 'must match pattern "^[A-Za-z][A-Za-z0-9_-]{0,63}$"' }];
                                                            return false;
                                                          }
                                                        } else {
                                                          validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/to/0", schemaPath: "#/properties/wires/items/properties/to/items/0/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                                          return false;
                                                        }
                                                      }
                                                      var valid11 = _errs68 === errors;
                                                    }
                                                    if (valid11) {
                                                      if (len10 > 1) {
                                                        let data34 = data32[1];
                                                        const _errs70 = errors;
                                                        if (errors === _errs70) {
                                                          if (typeof data34 === "string") {
                                                            if (func3(data34) > 40) {
                                                              validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/to/1", schemaPath: "#/properties/wires/items/properties/to/items/1/maxLength", keyword: "maxLength", params: { limit: 40 }, message: "must NOT have more than 40 characters" }];
                                                              return false;
                                                            } else {
                                                              if (func3(data34) < 1) {
                                                                validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/to/1", schemaPath: "#/properties/wires/items/properties/to/items/1/minLength", keyword: "minLength", params: { limit: 1 }, message: "must NOT have fewer than 1 characters" }];
                                                                return false;
                                                              }
                                                            }
                                                          } else {
                                                            validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/to/1", schemaPath: "#/properties/wires/items/properties/to/items/1/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                                            return false;
                                                          }
                                                        }
                                                        var valid11 = _errs70 === errors;
                                                      }
                                                    }
                                                  }
                                                }
                                              } else {
                                                validate10.errors = [{ instancePath: instancePath + "/wires/" + i4 + "/to", schemaPath: "#/properties/wires/items/properties/to/type", keyword: "type", params: { type: "array" }, message: "must be array" }];
                                                return false;
                                              }
                                            }
                                            var valid9 = _errs66 === errors;
                                          } else {
                                            var valid9 = true;
                                          }
                                        }
                                      }
                                    }
                                  } else {
                                    validate10.errors = [{ instancePath: instancePath + "/wires/" + i4, schemaPath: "#/properties/wires/items/type", keyword: "type", params: { type: "object" }, message: "must be object" }];
                                    return false;
                                  }
                                }
                                var valid8 = _errs57 === errors;
                                if (!valid8) {
                                  break;
                                }
                              }
                            }
                          } else {
                            validate10.errors = [{ instancePath: instancePath + "/wires", schemaPath: "#/properties/wires/type", keyword: "type", params: { type: "array" }, message: "must be array" }];
                            return false;
                          }
                        }
                        var valid0 = _errs55 === errors;
                      } else {
                        var valid0 = true;
                      }
                      if (valid0) {
                        if (data.areas !== void 0) {
                          let data35 = data.areas;
                          const _errs72 = errors;
                          if (errors === _errs72) {
                            if (Array.isArray(data35)) {
                              if (data35.length > 1e3) {
                                validate10.errors = [{ instancePath: instancePath + "/areas", schemaPath: "#/properties/areas/maxItems", keyword: "maxItems", params: { limit: 1e3 }, message: "must NOT have more than 1000 items" }];
                                return false;
                              } else {
                                var valid12 = true;
                                const len11 = data35.length;
                                for (let i5 = 0; i5 < len11; i5++) {
                                  let data36 = data35[i5];
                                  const _errs74 = errors;
                                  if (!(data36 && typeof data36 == "object" && !Array.isArray(data36))) {
                                    validate10.errors = [{ instancePath: instancePath + "/areas/" + i5, schemaPath: "#/properties/areas/items/type", keyword: "type", params: { type: "object" }, message: "must be object" }];
                                    return false;
                                  }
                                  var valid12 = _errs74 === errors;
                                  if (!valid12) {
                                    break;
                                  }
                                }
                              }
                            } else {
                              validate10.errors = [{ instancePath: instancePath + "/areas", schemaPath: "#/properties/areas/type", keyword: "type", params: { type: "array" }, message: "must be array" }];
                              return false;
                            }
                          }
                          var valid0 = _errs72 === errors;
                        } else {
                          var valid0 = true;
                        }
                        if (valid0) {
                          if (data.notes !== void 0) {
                            let data37 = data.notes;
                            const _errs76 = errors;
                            if (errors === _errs76) {
                              if (Array.isArray(data37)) {
                                if (data37.length > 1e3) {
                                  validate10.errors = [{ instancePath: instancePath + "/notes", schemaPath: "#/properties/notes/maxItems", keyword: "maxItems", params: { limit: 1e3 }, message: "must NOT have more than 1000 items" }];
                                  return false;
                                } else {
                                  var valid13 = true;
                                  const len12 = data37.length;
                                  for (let i6 = 0; i6 < len12; i6++) {
                                    let data38 = data37[i6];
                                    const _errs78 = errors;
                                    if (!(data38 && typeof data38 == "object" && !Array.isArray(data38))) {
                                      validate10.errors = [{ instancePath: instancePath + "/notes/" + i6, schemaPath: "#/properties/notes/items/type", keyword: "type", params: { type: "object" }, message: "must be object" }];
                                      return false;
                                    }
                                    var valid13 = _errs78 === errors;
                                    if (!valid13) {
                                      break;
                                    }
                                  }
                                }
                              } else {
                                validate10.errors = [{ instancePath: instancePath + "/notes", schemaPath: "#/properties/notes/type", keyword: "type", params: { type: "array" }, message: "must be array" }];
                                return false;
                              }
                            }
                            var valid0 = _errs76 === errors;
                          } else {
                            var valid0 = true;
                          }
                          if (valid0) {
                            if (data.view !== void 0) {
                              let data39 = data.view;
                              const _errs80 = errors;
                              if (!(data39 && typeof data39 == "object" && !Array.isArray(data39))) {
                                validate10.errors = [{ instancePath: instancePath + "/view", schemaPath: "#/properties/view/type", keyword: "type", params: { type: "object" }, message: "must be object" }];
                                return false;
                              }
                              var valid0 = _errs80 === errors;
                            } else {
                              var valid0 = true;
                            }
                            if (valid0) {
                              if (data.assets !== void 0) {
                                let data40 = data.assets;
                                const _errs82 = errors;
                                if (errors === _errs82) {
                                  if (data40 && typeof data40 == "object" && !Array.isArray(data40)) {
                                    for (const key4 in data40) {
                                      const _errs84 = errors;
                                      if (typeof key4 === "string") {
                                        if (!pattern4.test(key4)) {
                                          const err0 = { instancePath: instancePath + "/assets", schemaPath: "#/properties/assets/propertyNames/pattern", keyword: "pattern", params: { pattern: "^[0-9a-f]{64}$" }, message: 'must match pattern "^[0-9a-f]{64}$"', propertyName: key4 };
                                          if (vErrors === null) {
                                            vErrors = [err0];
                                          } else {
                                            vErrors.push(err0);
                                          }
                                          errors++;
                                        }
                                      }
                                      var valid14 = _errs84 === errors;
                                      if (!valid14) {
                                        const err1 = { instancePath: instancePath + "/assets", schemaPath: "#/properties/assets/propertyNames", keyword: "propertyNames", params: { propertyName: key4 }, message: "property name must be valid" };
                                        if (vErrors === null) {
                                          vErrors = [err1];
                                        } else {
                                          vErrors.push(err1);
                                        }
                                        errors++;
                                        validate10.errors = vErrors;
                                        return false;
                                        break;
                                      }
                                    }
                                    if (valid14) {
                                      for (const key5 in data40) {
                                        let data41 = data40[key5];
                                        const _errs86 = errors;
                                        if (errors === _errs86) {
                                          if (data41 && typeof data41 == "object" && !Array.isArray(data41)) {
                                            let missing4;
                                            if (data41.name === void 0 && (missing4 = "name") || data41.bytes === void 0 && (missing4 = "bytes")) {
                                              validate10.errors = [{ instancePath: instancePath + "/assets/" + key5.replace(/~/g, "~0").replace(/\//g, "~1"), schemaPath: "#/properties/assets/additionalProperties/required", keyword: "required", params: { missingProperty: missing4 }, message: "must have required property '" + missing4 + "'" }];
                                              return false;
                                            } else {
                                              const _errs88 = errors;
                                              for (const key6 in data41) {
                                                if (!(key6 === "name" || key6 === "bytes" || key6 === "taken")) {
                                                  validate10.errors = [{ instancePath: instancePath + "/assets/" + key5.replace(/~/g, "~0").replace(/\//g, "~1"), schemaPath: "#/properties/assets/additionalProperties/additionalProperties", keyword: "additionalProperties", params: { additionalProperty: key6 }, message: "must NOT have additional properties" }];
                                                  return false;
                                                  break;
                                                }
                                              }
                                              if (_errs88 === errors) {
                                                if (data41.name !== void 0) {
                                                  let data42 = data41.name;
                                                  const _errs89 = errors;
                                                  if (errors === _errs89) {
                                                    if (typeof data42 === "string") {
                                                      if (func3(data42) > 200) {
                                                        validate10.errors = [{ instancePath: instancePath + "/assets/" + key5.replace(/~/g, "~0").replace(/\//g, "~1") + "/name", schemaPath: "#/properties/assets/additionalProperties/properties/name/maxLength", keyword: "maxLength", params: { limit: 200 }, message: "must NOT have more than 200 characters" }];
                                                        return false;
                                                      } else {
                                                        if (func3(data42) < 1) {
                                                          validate10.errors = [{ instancePath: instancePath + "/assets/" + key5.replace(/~/g, "~0").replace(/\//g, "~1") + "/name", schemaPath: "#/properties/assets/additionalProperties/properties/name/minLength", keyword: "minLength", params: { limit: 1 }, message: "must NOT have fewer than 1 characters" }];
                                                          return false;
                                                        }
                                                      }
                                                    } else {
                                                      validate10.errors = [{ instancePath: instancePath + "/assets/" + key5.replace(/~/g, "~0").replace(/\//g, "~1") + "/name", schemaPath: "#/properties/assets/additionalProperties/properties/name/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                                      return false;
                                                    }
                                                  }
                                                  var valid16 = _errs89 === errors;
                                                } else {
                                                  var valid16 = true;
                                                }
                                                if (valid16) {
                                                  if (data41.bytes !== void 0) {
                                                    let data43 = data41.bytes;
                                                    const _errs91 = errors;
                                                    if (!(typeof data43 == "number" && (!(data43 % 1) && !isNaN(data43)))) {
                                                      validate10.errors = [{ instancePath: instancePath + "/assets/" + key5.replace(/~/g, "~0").replace(/\//g, "~1") + "/bytes", schemaPath: "#/properties/assets/additionalProperties/properties/bytes/type", keyword: "type", params: { type: "integer" }, message: "must be integer" }];
                                                      return false;
                                                    }
                                                    if (errors === _errs91) {
                                                      if (typeof data43 == "number") {
                                                        if (data43 < 0 || isNaN(data43)) {
                                                          validate10.errors = [{ instancePath: instancePath + "/assets/" + key5.replace(/~/g, "~0").replace(/\//g, "~1") + "/bytes", schemaPath: "#/properties/assets/additionalProperties/properties/bytes/minimum", keyword: "minimum", params: { comparison: ">=", limit: 0 }, message: "must be >= 0" }];
                                                          return false;
                                                        }
                                                      }
                                                    }
                                                    var valid16 = _errs91 === errors;
                                                  } else {
                                                    var valid16 = true;
                                                  }
                                                  if (valid16) {
                                                    if (data41.taken !== void 0) {
                                                      let data44 = data41.taken;
                                                      const _errs93 = errors;
                                                      if (errors === _errs93) {
                                                        if (typeof data44 === "string") {
                                                          if (!pattern5.test(data44)) {
                                                            validate10.errors = [{ instancePath: instancePath + "/assets/" + key5.replace(/~/g, "~0").replace(/\//g, "~1") + "/taken", schemaPath: "#/properties/assets/additionalProperties/properties/taken/pattern", keyword: "pattern", params: { pattern: "^\\d{4}-\\d{2}-\\d{2}T[0-9:.]+Z$" }, message: 'must match pattern "^\\d{4}-\\d{2}-\\d{2}T[0-9:.]+Z$"' }];
                                                            return false;
                                                          }
                                                        } else {
                                                          validate10.errors = [{ instancePath: instancePath + "/assets/" + key5.replace(/~/g, "~0").replace(/\//g, "~1") + "/taken", schemaPath: "#/properties/assets/additionalProperties/properties/taken/type", keyword: "type", params: { type: "string" }, message: "must be string" }];
                                                          return false;
                                                        }
                                                      }
                                                      var valid16 = _errs93 === errors;
                                                    } else {
                                                      var valid16 = true;
                                                    }
                                                  }
                                                }
                                              }
                                            }
                                          } else {
                                            validate10.errors = [{ instancePath: instancePath + "/assets/" + key5.replace(/~/g, "~0").replace(/\//g, "~1"), schemaPath: "#/properties/assets/additionalProperties/type", keyword: "type", params: { type: "object" }, message: "must be object" }];
                                            return false;
                                          }
                                        }
                                        var valid15 = _errs86 === errors;
                                        if (!valid15) {
                                          break;
                                        }
                                      }
                                    }
                                  } else {
                                    validate10.errors = [{ instancePath: instancePath + "/assets", schemaPath: "#/properties/assets/type", keyword: "type", params: { type: "object" }, message: "must be object" }];
                                    return false;
                                  }
                                }
                                var valid0 = _errs82 === errors;
                              } else {
                                var valid0 = true;
                              }
                            }
                          }
                        }
                      }
                    }
                  }
                }
              }
            }
          }
        }
      }
    } else {
      validate10.errors = [{ instancePath, schemaPath: "#/type", keyword: "type", params: { type: "object" }, message: "must be object" }];
      return false;
    }
  }
  validate10.errors = vErrors;
  return errors === 0;
}
export {
  stdin_default as default,
  validate
};
