//! A glTF 2.0 file (Khronos), as `.glb` or as `.gltf` with everything inside: opened only where all of its parts
//! are there, so that whoever reads on finds nothing that leads nowhere.

use crate::{FormatError, excerpt};
use base64::Engine;
use gltf::Gltf;

/// Files of more nodes are refused.
pub(crate) const MOST_NODES: usize = 20_000;
const MOST_TEXTURES: usize = 64;

/// A file and what its buffers hold.
pub(crate) struct File {
    pub file: Gltf,
    pub buffers: Vec<Vec<u8>>,
}

/// A file whose parts are all there.
pub(crate) fn open(bytes: &[u8]) -> Result<File, FormatError> {
    if bytes.is_empty() {
        return Err(FormatError::whole("the file is empty; write it again"));
    }
    if bytes.len() > crate::LARGEST_FILE {
        return Err(FormatError::whole(format!(
            "the file is larger than {} MB; take out what is not needed",
            crate::LARGEST_FILE >> 20
        )));
    }
    check_container(bytes)?;
    // The gltf crate panics on some indices that lead nowhere, before it reports them.
    let file = std::panic::catch_unwind(|| Gltf::from_slice(bytes)).map_err(|_| {
        FormatError::whole("its description refers to what is not there; the file is damaged")
    })?;
    File::new(file.map_err(unreadable)?)
}

/// Checks the lengths in the header against the bytes.
fn check_container(bytes: &[u8]) -> Result<(), FormatError> {
    if !bytes.starts_with(b"glTF") {
        let text = bytes.iter().find(|b| !b.is_ascii_whitespace());
        return if text == Some(&b'{') {
            Ok(())
        } else {
            Err(FormatError::whole("this is not glTF; check that it is the right file"))
        };
    }
    let word = |at: usize| Some(u32::from_le_bytes(bytes.get(at..at + 4)?.try_into().ok()?));
    let (Some(version), Some(length)) = (word(4), word(8)) else {
        return Err(FormatError::whole("the file ends within its header; it may be cut off"));
    };
    if version != 2 {
        return Err(FormatError::whole(format!("this is glTF {version}; write it as glTF 2.0")));
    }
    if length as usize > bytes.len() {
        let missing = length as usize - bytes.len();
        return Err(FormatError::whole(format!(
            "{missing} bytes are missing at the end; the file is cut off"
        )));
    }
    Ok(())
}

fn unreadable(error: gltf::Error) -> FormatError {
    FormatError::whole(match error {
        gltf::Error::Validation(faults) => {
            let (path, fault) = &faults[0];
            format!("its description is not valid at {path}: {fault}; write it again with another exporter")
        }
        gltf::Error::Deserialize(e) => {
            return FormatError {
                line: (e.line() > 1).then_some(e.line() as u64),
                sentence: format!("its description cannot be read ({e}); the file may be cut off"),
            };
        }
        gltf::Error::Binary(e) => format!("its parts do not fit together ({e}); the file may be cut off"),
        other => format!("it cannot be read: {other}"),
    })
}

impl File {
    fn new(mut file: Gltf) -> Result<File, FormatError> {
        if let Some(extension) = file.extensions_required().next() {
            return Err(FormatError::whole(format!(
                "it needs the extension {}, which is not read here; write it without compression",
                excerpt(extension)
            )));
        }
        let description = file.document.as_json();
        if !description.asset.version.starts_with("2.") {
            let version = excerpt(&description.asset.version);
            return Err(FormatError::whole(format!("this is glTF {version}; write it as glTF 2.0")));
        }
        let placed =
            |i: &gltf::json::Image| i.uri.is_some() || i.buffer_view.is_some() && i.mime_type.is_some();
        if !description.images.iter().all(placed) {
            return Err(FormatError::whole("an image in it has no data; the file is damaged"));
        }
        if file.nodes().len() > MOST_NODES || file.images().len() > MOST_TEXTURES {
            return Err(FormatError::whole(format!(
                "it has {} nodes and {} images; at most {MOST_NODES} and {MOST_TEXTURES} are taken",
                file.nodes().len(),
                file.images().len()
            )));
        }
        let mut blob = file.blob.take();
        let buffers = file.buffers().map(|b| buffer(&b, &mut blob)).collect::<Result<Vec<_>, _>>()?;
        let file = File { buffers, file };
        file.check_accessors()?;
        Ok(file)
    }

    /// Every accessor lies within its view, every view within its buffer.
    fn check_accessors(&self) -> Result<(), FormatError> {
        for view in self.file.views() {
            let end = view.offset().checked_add(view.length());
            if end.is_none_or(|end| end > self.buffers[view.buffer().index()].len()) {
                return Err(FormatError::whole(format!(
                    "part {} of its data lies outside the buffer; the file is damaged",
                    view.index()
                )));
            }
        }
        for accessor in self.file.accessors() {
            if accessor.sparse().is_some() {
                return Err(FormatError::whole("it has sparse data, which is not read here; write it plain"));
            }
            let Some(view) = accessor.view() else { continue };
            let stride = view.stride().unwrap_or(accessor.size()).max(1);
            let last = accessor.count().saturating_sub(1).checked_mul(stride);
            let end = last.and_then(|n| n.checked_add(accessor.offset())?.checked_add(accessor.size()));
            if accessor.count() == 0 || end.is_none_or(|end| end > view.length()) {
                return Err(FormatError::whole(format!(
                    "list {} of its numbers is longer than its data; the file is damaged",
                    accessor.index()
                )));
            }
        }
        Ok(())
    }
}

fn buffer(buffer: &gltf::Buffer, blob: &mut Option<Vec<u8>>) -> Result<Vec<u8>, FormatError> {
    let bytes = match buffer.source() {
        gltf::buffer::Source::Bin => {
            blob.take().ok_or_else(|| FormatError::whole("its data is missing; the file is cut off"))?
        }
        gltf::buffer::Source::Uri(uri) => data_of(uri)?,
    };
    if bytes.len() < buffer.length() {
        let missing = buffer.length() - bytes.len();
        return Err(FormatError::whole(format!(
            "{missing} bytes of its data are missing; the file is damaged"
        )));
    }
    Ok(bytes)
}

/// Bytes of a data address.
pub(crate) fn data_of(uri: &str) -> Result<Vec<u8>, FormatError> {
    let inside = uri.strip_prefix("data:").and_then(|rest| rest.split_once(";base64,"));
    let Some((_, text)) = inside else {
        return Err(FormatError::whole(format!(
            "it refers to {}, which is another file; write everything into one .glb",
            excerpt(uri)
        )));
    };
    base64::engine::general_purpose::STANDARD
        .decode(text)
        .map_err(|e| FormatError::whole(format!("its data cannot be read ({e}); the file is damaged")))
}
