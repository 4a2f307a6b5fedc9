//! Images that follow one another: a ZIP (APPNOTE 6.3) of PNG or JPEG files, one for each frame, in the order
//! of the numbers in their names.

use crate::gltf_set::picture;
use crate::{FormatError, excerpt};
use rovnek_core::set::MOST_IMAGES;
use std::io::{Cursor, Read};

/// Images in order.
#[derive(Clone, Debug, Default)]
pub struct Images {
    /// Names of the files, and their bytes.
    pub images: Vec<(String, Vec<u8>)>,
    /// Pixels of each: width, height.
    pub size: (u32, u32),
}

/// The images of a ZIP, as long as it may go on; told is how far it is, from 0 to 1.
pub fn read_while(bytes: &[u8], go_on: &mut dyn FnMut(f64) -> bool) -> Result<Images, FormatError> {
    if bytes.len() > crate::LARGEST_FILE {
        let most = crate::LARGEST_FILE >> 20;
        return Err(FormatError::whole(format!(
            "the file is larger than {most} MB; send fewer or smaller images"
        )));
    }
    let damaged = |e: zip::result::ZipError| {
        FormatError::whole(format!("this is no whole ZIP of images ({e}); pack PNG or JPEG files into one"))
    };
    let mut archive = zip::ZipArchive::new(Cursor::new(bytes)).map_err(damaged)?;
    let shown = |name: &str| {
        let file = name.rsplit('/').next().unwrap_or(name);
        // What other systems leave in an archive is no image of it.
        !file.is_empty() && !file.starts_with('.') && !name.starts_with("__MACOSX")
    };
    let names = archive.file_names().map(|name| name.map(|n| n.into_owned()));
    let mut names: Vec<String> = names.collect::<Result<_, _>>().map_err(damaged)?;
    names.retain(|n| shown(n));
    names.sort_by_cached_key(|name| in_order(name));
    if names.is_empty() || names.len() > MOST_IMAGES {
        return Err(FormatError::whole(format!(
            "there are {} images in it; 1 to {MOST_IMAGES} are taken",
            names.len()
        )));
    }
    let (mut out, count, mut unpacked) = (Images::default(), names.len() as f64, 0);
    for (i, name) in names.into_iter().enumerate() {
        if !go_on(i as f64 / count) {
            return Err(FormatError::whole("it was stopped; nothing of it came in"));
        }
        let file = archive.by_name(&name).map_err(damaged)?;
        let mut image = Vec::new();
        let room = (4 * crate::LARGEST_FILE - unpacked) as u64;
        file.take(room + 1)
            .read_to_end(&mut image)
            .map_err(|e| FormatError::whole(format!("{} is damaged ({e}); pack it again", excerpt(&name))))?;
        unpacked += image.len();
        if image.len() as u64 > room {
            let most = 4 * (crate::LARGEST_FILE >> 20);
            return Err(FormatError::whole(format!(
                "its images are over {most} MB together; make them smaller"
            )));
        }
        let (shows, _) =
            picture(&image).map_err(|why| FormatError::whole(format!("{}: {why}", excerpt(&name))))?;
        let size = (shows.width(), shows.height());
        if i == 0 {
            out.size = size;
        }
        if size != out.size {
            let ((w, h), (first_w, first_h)) = (size, out.size);
            return Err(FormatError::whole(format!(
                "{} is {w} × {h} pixels and the first one {first_w} × {first_h}; make all of them as large",
                excerpt(&name)
            )));
        }
        out.images.push((name, image));
    }
    Ok(out)
}

/// A name by which images go in order: numbers by their value, whatever zeros they begin with.
fn in_order(name: &str) -> Vec<(String, u64)> {
    let mut parts = vec![(String::new(), 0u64)];
    let mut digits = false;
    for c in name.chars() {
        if let Some(digit) = c.to_digit(10) {
            let last = parts.last_mut().expect("there is one");
            last.1 = last.1.saturating_mul(10).saturating_add(u64::from(digit));
            digits = true;
        } else {
            if std::mem::take(&mut digits) {
                parts.push((String::new(), 0));
            }
            parts.last_mut().expect("there is one").0.push(c);
        }
    }
    parts
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::io::Write;
    use zip::write::SimpleFileOptions;

    fn png(width: u32, shade: u8) -> Vec<u8> {
        let mut out = Cursor::new(Vec::new());
        let image = image::RgbaImage::from_pixel(width, 2, image::Rgba([shade, 0, 0, 128]));
        image.write_to(&mut out, image::ImageFormat::Png).unwrap();
        out.into_inner()
    }

    fn packed(files: &[(&str, Vec<u8>)]) -> Vec<u8> {
        let mut zip = zip::ZipWriter::new(Cursor::new(Vec::new()));
        for (name, bytes) in files {
            zip.start_file(*name, SimpleFileOptions::default()).unwrap();
            zip.write_all(bytes).unwrap();
        }
        zip.finish().unwrap().into_inner()
    }

    fn read(bytes: &[u8]) -> Result<Images, FormatError> {
        read_while(bytes, &mut |_| true)
    }

    #[test]
    fn images_come_in_the_order_of_their_numbers_and_nothing_else_comes() {
        let files = [
            ("a/dance-10.png", png(3, 10)),
            ("a/dance-9.png", png(3, 9)),
            ("__MACOSX/a/._x", vec![1]),
            ("a/.DS_Store", vec![0]),
        ];
        let images = read(&packed(&files)).unwrap();
        let names: Vec<&str> = images.images.iter().map(|(n, _)| n.as_str()).collect();
        assert_eq!((names, images.size), (vec!["a/dance-9.png", "a/dance-10.png"], (3, 2)));
        assert_eq!(images.images[0].1, png(3, 9));
    }

    #[test]
    fn what_cannot_be_shown_is_named() {
        let says = |bytes: &[u8], word: &str| {
            let error = read(bytes).unwrap_err().sentence;
            assert!(error.contains(word), "{error}");
        };
        says(b"not a zip", "ZIP");
        says(&packed(&[]), "0 images");
        says(&packed(&[("1.png", png(3, 1)), ("2.png", png(4, 1))]), "\"2.png\" is 4 × 2");
        says(
            &packed(&[("1.png", png(3, 1)), ("2.txt", b"hello".to_vec())]),
            "\"2.txt\": this is neither PNG",
        );
        let whole = packed(&[("1.png", png(3, 1)), ("2.png", png(3, 2))]);
        for cut in 0..whole.len() {
            assert!(read(&whole[..cut]).is_err(), "cut at {cut}");
        }
        assert!(read_while(&whole, &mut |share| share < 0.4).unwrap_err().sentence.contains("stopped"));
    }
}
