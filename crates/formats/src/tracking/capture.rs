//! Packets as they came, with their times: the evidence behind a take, as a packet capture (pcap)
//! of IPv4 and UDP that the usual tools of the trade read.

use etherparse::{PacketBuilder, SlicedPacket, TransportSlice};
use pcap_file::DataLink;
use pcap_file::pcap::{PcapHeader, PcapPacket, PcapReader, PcapWriter};
use std::io::Cursor;
use std::time::Duration;

/// A datagram and when it came.
#[derive(Clone, Debug, PartialEq)]
pub struct Packet {
    /// Seconds; in a take from its start.
    pub time_s: f64,
    /// UDP port that it came to.
    pub port: u16,
    /// Bytes of the packet.
    pub data: Vec<u8>,
}

/// Writes packets; times before 0, which a capture cannot say, count as 0.
pub fn write(packets: &[Packet]) -> Vec<u8> {
    let header = PcapHeader {
        datalink: DataLink::RAW,
        ts_resolution: pcap_file::TsResolution::NanoSecond,
        ..PcapHeader::default()
    };
    let mut out = PcapWriter::with_header(Vec::new(), header).expect("writing to memory");
    for packet in packets {
        let builder = PacketBuilder::ipv4([127, 0, 0, 1], [127, 0, 0, 1], 64).udp(packet.port, packet.port);
        let mut frame = Vec::with_capacity(builder.size(packet.data.len()));
        if builder.write(&mut frame, &packet.data).is_err() {
            continue; // longer than a datagram can be
        }
        let time = Duration::from_secs_f64(packet.time_s.max(0.0));
        let length = frame.len() as u32;
        out.write_packet(&PcapPacket::new_owned(time, length, frame)).expect("writing to memory");
    }
    out.into_writer()
}

/// Reads the datagrams of a capture; what else is in it is left out.
pub fn read(bytes: &[u8]) -> Result<Vec<Packet>, String> {
    let mut reader =
        PcapReader::new(Cursor::new(bytes)).map_err(|e| format!("this is no packet capture (pcap): {e}"))?;
    let link = reader.header().datalink;
    if ![DataLink::RAW, DataLink::IPV4, DataLink::ETHERNET].contains(&link) {
        return Err(format!("the capture is of {link:?}; give one of IPv4 or Ethernet"));
    }
    let mut packets = Vec::new();
    while let Some(packet) = reader.next_packet() {
        let packet = packet.map_err(|e| format!("packet {} of the capture: {e}", packets.len() + 1))?;
        let sliced = match link {
            DataLink::ETHERNET => SlicedPacket::from_ethernet(&packet.data),
            _ => SlicedPacket::from_ip(&packet.data),
        };
        if let Ok(SlicedPacket { transport: Some(TransportSlice::Udp(udp)), .. }) = sliced {
            packets.push(Packet {
                time_s: packet.timestamp.as_secs_f64(),
                port: udp.destination_port(),
                data: udp.payload().to_vec(),
            });
        }
    }
    if packets.is_empty() {
        return Err("there is no UDP packet in the capture".into());
    }
    Ok(packets)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn there_and_back() {
        let packets: Vec<Packet> = (0..50)
            .map(|i| Packet {
                time_s: f64::from(i) * 0.004,
                port: 40_000,
                data: vec![i as u8; 29 + i as usize],
            })
            .collect();
        let back = read(&write(&packets)).unwrap();
        assert_eq!(back.len(), 50);
        for (a, b) in packets.iter().zip(&back) {
            assert!((a.time_s - b.time_s).abs() < 2e-9 && a.port == b.port && a.data == b.data);
        }
    }

    #[test]
    fn what_is_no_capture_is_said() {
        assert!(read(b"hello").unwrap_err().contains("no packet capture"));
        assert!(read(&write(&[])).unwrap_err().contains("no UDP"));
        let whole = write(&[Packet { time_s: 0.0, port: 9, data: vec![1; 40] }]);
        for cut in 0..whole.len() {
            let _ = read(&whole[..cut]);
        }
    }
}
