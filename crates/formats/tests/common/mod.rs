//! Workbooks as text.
#![allow(dead_code)]

use std::io::Write;

/// A workbook of one sheet with such rows.
pub fn workbook(rows: &str) -> Vec<u8> {
    book(&[("one", &format!("<sheetData>{rows}</sheetData>"))], "")
}

/// A workbook of sheets by name, with properties of the book.
pub fn book(sheets: &[(&str, &str)], properties: &str) -> Vec<u8> {
    const MAIN: &str = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
    const OFFICE: &str = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
    const PACKAGE: &str = "http://schemas.openxmlformats.org/package/2006";
    let of_each =
        |write: &dyn Fn(usize, &str) -> String| sheets.iter().enumerate().map(|(at, (name, _))| write(at + 1, name)).collect::<String>();
    let mut parts = vec![
        (
            "[Content_Types].xml".to_owned(),
            format!(r#"<Types xmlns="{PACKAGE}/content-types"><Default Extension="xml" ContentType="application/xml"/></Types>"#),
        ),
        (
            "_rels/.rels".to_owned(),
            format!(
                r#"<Relationships xmlns="{PACKAGE}/relationships"><Relationship Id="r1" Type="{OFFICE}/officeDocument" Target="xl/workbook.xml"/></Relationships>"#
            ),
        ),
        (
            "xl/_rels/workbook.xml.rels".to_owned(),
            format!(
                r#"<Relationships xmlns="{PACKAGE}/relationships">{}</Relationships>"#,
                of_each(&|at, _| format!(r#"<Relationship Id="r{at}" Type="{OFFICE}/worksheet" Target="worksheets/sheet{at}.xml"/>"#))
            ),
        ),
        (
            "xl/workbook.xml".to_owned(),
            format!(
                r#"<workbook xmlns="{MAIN}" xmlns:r="{OFFICE}">{properties}<sheets>{}</sheets></workbook>"#,
                of_each(&|at, name| format!(r#"<sheet name="{name}" sheetId="{at}" r:id="r{at}"/>"#))
            ),
        ),
    ];
    for (at, (_, inside)) in sheets.iter().enumerate() {
        parts.push((format!("xl/worksheets/sheet{}.xml", at + 1), format!(r#"<worksheet xmlns="{MAIN}">{inside}</worksheet>"#)));
    }
    zipped(&parts)
}

/// A zip of such parts.
pub fn zipped(parts: &[(String, String)]) -> Vec<u8> {
    let mut zip = zip::ZipWriter::new(std::io::Cursor::new(Vec::new()));
    let packed = zip::write::SimpleFileOptions::default();
    for (name, text) in parts {
        zip.start_file(name.as_str(), packed).unwrap();
        zip.write_all(text.as_bytes()).unwrap();
    }
    zip.finish().unwrap().into_inner()
}
